/** A recording, or the aligned timeline of a job, or a span of either, as a file that any tool can open. */

import { cutSeries, type Table, tableOf, timelineTable } from '@/core/log/export/columns';
import { csvOf } from '@/core/log/export/csv';
import type { Span } from '@/core/quantity/span';
import type { Series } from '@/core/log/channels';
import type { Store } from '@/store/database';
import { findJob } from '@/store/jobs';
import { findRecording, listRecordings } from '@/store/recordings';
import { loadSeries } from '@/store/samples';
import { gone } from './refusal';
import { parquetInThread } from './threads';

export type ExportFormat = 'csv' | 'parquet';

export interface Exported {
  fileName: string;
  type: string;
  /** In pieces, as they are made. */
  body: Iterable<Uint8Array> | AsyncIterable<Uint8Array>;
}

/** @throws Refusal when there is no such recording */
export async function exportRecording(
  store: Store,
  id: string,
  format: ExportFormat,
  span: Span | null,
): Promise<Exported> {
  const recording = await findRecording(store, id);
  if (!recording) throw gone('recording');
  const series = cutSeries(await loadSeries(store, id), span);
  return exported(recording.device, series.time[0] ?? recording.from_ms, tableOf(series), format);
}

/** All recordings of a job on one clock. @throws Refusal when there is no such job, or it has none */
export async function exportTimeline(
  store: Store,
  jobId: string,
  format: ExportFormat,
  span: Span | null,
): Promise<Exported> {
  const recordings = (await findJob(store, jobId)) ? await listRecordings(store, jobId) : [];
  if (recordings.length === 0) throw gone('job with logs');
  const series: Series[] = [];
  for (const { id } of recordings) series.push(cutSeries(await loadSeries(store, id), span));
  const table = timelineTable(series);
  return exported('timeline', table.time[0] ?? span?.from ?? 0, table, format);
}

async function exported(of: string, from: number, table: Table, format: ExportFormat): Promise<Exported> {
  const name = `${of}-${new Date(from).toISOString().slice(0, 10)}`;
  if (format === 'csv')
    return { fileName: `${name}.csv`, type: 'text/csv; charset=utf-8; header=present', body: csvOf(table) };
  const file = await parquetInThread(table);
  return { fileName: `${name}.parquet`, type: 'application/vnd.apache.parquet', body: [file] };
}
