/** Rows of any table written as tab-delimited text, so that one reader reads them all. */

import { strToU8 } from 'fflate';

export type Cell = string | number | bigint | boolean | Date | null | undefined;

/** How a date is written: with its offset, or as the clock on the wall that a spreadsheet keeps. */
export type DateStyle = 'utc' | 'wall';

/** Rows joined before they are encoded. */
const BATCH = 4096;

/** Tab-delimited UTF-8. @param headings first row @param rows in order; a short row is filled with nothing */
export function toDelimited(
  headings: readonly string[],
  rows: Iterable<readonly Cell[]>,
  dates: DateStyle,
): Uint8Array {
  const parts: Uint8Array[] = [];
  let lines = [headings.map(quoted).join('\t')];
  const flush = () => {
    if (lines.length > 0) parts.push(strToU8(lines.join('\n') + '\n'));
    lines = [];
  };
  for (const row of rows) {
    lines.push(row.map((cell) => text(cell, dates)).join('\t'));
    if (lines.length >= BATCH) flush();
  }
  flush();
  return joined(parts);
}

export function joined(parts: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((total, part) => total + part.length, 0));
  parts.reduce((at, part) => (all.set(part, at), at + part.length), 0);
  return all;
}

function text(cell: Cell, dates: DateStyle): string {
  if (cell === null || cell === undefined) return '';
  if (typeof cell === 'number') return Number.isFinite(cell) ? String(cell) : '';
  if (typeof cell === 'boolean') return cell ? '1' : '0';
  if (cell instanceof Date) return dateText(cell, dates);
  return quoted(String(cell));
}

function dateText(date: Date, style: DateStyle): string {
  if (Number.isNaN(date.getTime())) return '';
  if (style === 'utc') return date.toISOString();
  // Days as a fraction miss whole seconds by a hair.
  const seconds = Math.round(date.getTime() / 1000) * 1000;
  const near = Math.abs(date.getTime() - seconds) <= 5;
  const iso = (near ? new Date(seconds) : date).toISOString();
  // A spreadsheet's time of day is a date at the start of its calendar.
  const clock = iso.slice(11, 23).replace(/\.000$/, '');
  return date.getUTCFullYear() < 1905 ? clock : `${iso.slice(0, 10)} ${clock}`;
}

const quoted = (cell: string): string => {
  const line = cell.replace(/[\r\n]+/g, ' ');
  return /["\t]/.test(line) ? `"${line.replaceAll('"', '""')}"` : line;
};
