/** Logs in a spreadsheet (XLSX): the first sheet that holds a table. */

import readSheets from 'read-excel-file/universal';
import { NotALog } from '../sniff';
import { type Cell, toDelimited } from './delimited';

/** @param bytes the whole file @throws NotALog */
export async function workbookToDelimited(bytes: Uint8Array): Promise<Uint8Array> {
  let sheets: { sheet: string; data: unknown[][] }[];
  try {
    const copy = bytes.slice().buffer;
    sheets = (await readSheets(copy)) as unknown as { sheet: string; data: unknown[][] }[];
  } catch {
    throw new NotALog(
      'This spreadsheet cannot be opened: it is damaged or protected. Save it again, or as CSV.',
    );
  }
  const filled = sheets.filter(({ data }) => data.length > 1);
  const table = filled.reduce<{ data: unknown[][] } | null>(
    (best, one) => (best === null || one.data.length > best.data.length ? one : best),
    null,
  );
  if (!table)
    throw new NotALog('This spreadsheet holds no table of readings. Check that it is the right file.');
  const [first, ...rest] = table.data as Cell[][];
  return toDelimited(
    first!.map((cell) => (cell === null || cell === undefined ? '' : String(cell))),
    rest,
    'wall',
  );
}
