/** A recording, or the aligned timeline of a job, or a span of either, as a file that any tool can open. */

import { cutSeries, type Table, tableOf, timelineTable } from '@/core/log/export/columns';
import { csvOf } from '@/core/log/export/csv';
import type { Span } from '@/core/quantity/span';
import type { Series } from '@/core/log/channels';
import type { Store } from '@/store/database';
import { findJob, isId } from '@/store/jobs';
import { findRecording, listRecordings } from '@/store/recordings';
import { loadSeries } from '@/store/samples';
import { parquetInThread } from './threads';

export const FORMATS = ['csv', 'parquet'] as const;
export type ExportFormat = (typeof FORMATS)[number];

export interface Exported {
  fileName: string;
  type: string;
  /** In pieces, as they are made. */
  body: Iterable<Uint8Array>;
}

/** Null when there is no such recording. */
export async function exportRecording(
  store: Store,
  id: string,
  format: ExportFormat,
  span: Span | null,
): Promise<Exported | null> {
  const recording = isId(id) ? await findRecording(store, id) : undefined;
  if (!recording) return null;
  const series = cutSeries(await loadSeries(store, id), span);
  return exported(recording.device, series.time[0] ?? recording.from_ms, tableOf(series), format);
}

/** All recordings of a job on one clock; null when there is no such job, or it has none. */
export async function exportTimeline(
  store: Store,
  jobId: string,
  format: ExportFormat,
  span: Span | null,
): Promise<Exported | null> {
  if (!isId(jobId) || !(await findJob(store, jobId))) return null;
  const series: Series[] = [];
  for (const { id } of await listRecordings(store, jobId))
    series.push(cutSeries(await loadSeries(store, id), span));
  const table = timelineTable(series);
  return series.length > 0 ? exported('timeline', table.time[0] ?? span?.from ?? 0, table, format) : null;
}

async function exported(of: string, from: number, table: Table, format: ExportFormat): Promise<Exported> {
  const name = `${of}-${new Date(from).toISOString().slice(0, 10)}`;
  if (format === 'csv')
    return { fileName: `${name}.csv`, type: 'text/csv; charset=utf-8; header=present', body: csvOf(table) };
  const file = await parquetInThread(table);
  return { fileName: `${name}.parquet`, type: 'application/vnd.apache.parquet', body: [file] };
}
