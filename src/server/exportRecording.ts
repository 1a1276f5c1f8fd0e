/** A recording, or a span of it, as a file that any tool can open. */

import { csvOf } from '@/core/log/export/csv';
import { cutSeries } from '@/core/log/export/columns';
import { parquetOf } from '@/core/log/export/parquet';
import type { Span } from '@/core/quantity/span';
import type { Store } from '@/store/database';
import { isId } from '@/store/jobs';
import { findRecording, loadSeries } from '@/store/recordings';

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
  const name = `${recording.device}-${new Date(series.time[0] ?? recording.from_ms).toISOString().slice(0, 10)}`;
  return format === 'csv'
    ? { fileName: `${name}.csv`, type: 'text/csv; charset=utf-8; header=present', body: csvOf(series) }
    : {
        fileName: `${name}.parquet`,
        type: 'application/vnd.apache.parquet',
        body: [parquetOf(series)],
      };
}
