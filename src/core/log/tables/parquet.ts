/** Logs in Apache Parquet. */

import { parquetMetadataAsync, parquetRead } from 'hyparquet';
import { compressors } from 'hyparquet-compressors';
import { NotALog } from '../sniff';
import { type Cell, joined, toDelimited } from './delimited';

/** Rows that are turned into text at a time. */
const SLICE = 65_536;

/** @param bytes the whole file @throws NotALog */
export async function parquetToDelimited(bytes: Uint8Array): Promise<Uint8Array> {
  const file = {
    byteLength: bytes.length,
    slice: (from: number, to?: number) => bytes.slice(from, to ?? bytes.length).buffer as ArrayBuffer,
  };
  try {
    const metadata = await parquetMetadataAsync(file);
    const headings = metadata.schema.filter((one) => one.num_children === undefined).map((one) => one.name);
    const rows = Number(metadata.num_rows);
    const parts: Uint8Array[] = [];
    for (let start = 0; start < rows; start += SLICE) {
      let slice: Cell[][] = [];
      await parquetRead({
        file,
        metadata,
        compressors,
        columns: headings,
        rowStart: start,
        rowEnd: Math.min(rows, start + SLICE),
        onComplete: (table) => (slice = table as Cell[][]),
      });
      const text = toDelimited(headings, slice, 'utc');
      parts.push(start === 0 ? text : text.subarray(text.indexOf(10) + 1));
    }
    return joined(parts);
  } catch (error) {
    if (error instanceof NotALog) throw error;
    throw new NotALog(
      `This Parquet file cannot be read: ${error instanceof Error ? error.message : 'it is damaged'}. Write it again, or as CSV.`,
    );
  }
}
