/**
 * Says what the columns of a log are from their headings, units and values. Recognition is by meaning: no format of any
 * maker is known by name. What is not certain is marked so, and asked.
 */

import { chooseTime } from '../chooseTime';
import { decodeText, plainBytes } from '../encoding';
import { type Dialect, NotALog, sniffDialect, splitLine } from '../sniff';
import { settleBehaviour } from './behaviour';
import { settleBeside, settleCounters, settleNet } from './beside';
import { recogniseColumn } from './column';
import type { ColumnReading, DeviceKind, LogReading } from './reading';
import { dropNeedlessPower, settleCells, settleDirections, settleDoubles } from './settle';
import { settleWarmth } from './warmth';

export type { ColumnReading, DeviceKind, LogReading, Sureness } from './reading';

/** Bytes of a file that are looked at to recognise it. */
export const HEAD_BYTES = 262_144;
/** A head this long with hardly a line end in it is no table. */
const LONGEST_LINES = 128 * 1024;

/** What is told of a log before it is looked at. */
export interface Given {
  delimiter?: string;
  decimalChar?: string;
  /** Heading of the column that holds the time, where a person has said so. */
  timeHeading?: string;
}

/** The head of a log, split into cells. */
export interface HeadTable {
  dialect: Dialect;
  headings: string[];
  units: string[];
  /** Rows of readings that are whole. */
  rows: string[][];
}

/** @param head first bytes of the file, ideally 64 KiB or more. @throws NotALog */
export function headTable(head: Uint8Array, given: Given = {}): HeadTable {
  const text = decodeText(plainBytes()(head.subarray(0, HEAD_BYTES)));
  const lines = text.split(/\r\n|\n|\r/);
  if (text.length > LONGEST_LINES && lines.length < 4)
    throw new NotALog(
      `Its lines are longer than ${Math.round(LONGEST_LINES / 1024)} kB: a log has one line for each moment. Check that this is the right file.`,
    );
  const dialect = sniffDialect(text, given);
  const whole = lines.length > 1 ? lines.slice(0, -1) : lines;
  const rows = whole
    .slice(dialect.firstDataLine)
    .filter((line) => line.trim() !== '')
    .map((line) => splitLine(line, dialect.delimiter));
  const cells = (line: number | null) => (line === null ? [] : splitLine(lines[line]!, dialect.delimiter));
  const units = cells(dialect.unitLine);
  const above = dialect.headingLine ? cells(dialect.headingLine - 1) : [];
  const named = underGroups(above, spanning(cells(dialect.headingLine), units));
  const width = Math.max(named.length, rows[0]?.length ?? 0);
  const headings = Array.from({ length: width }, (_, i) => named[i] || `column ${i + 1}`);
  return { dialect, headings, units, rows };
}

/** A heading that stands over several columns, each with its unit below: a spreadsheet writes it over the first. */
const spanning = (headings: readonly string[], units: readonly string[]): string[] => {
  const filled = rightwards(headings);
  return headings.map((heading, i) => (heading === '' && units[i] ? filled[i]! : heading));
};

/** Headings that are not all different, under a line that says what each group of them belongs to, with that before them. */
function underGroups(above: readonly string[], headings: string[]): string[] {
  const known = headings.filter((one) => one !== '');
  const areGroups = above.length === headings.length && above.filter((one) => one !== '').length > 1;
  if (!areGroups || new Set(known).size === known.length) return headings;
  const groups = rightwards(above);
  return headings.map((heading, i) => (heading === '' ? '' : `${groups[i]!} ${heading}`.trim()));
}

/** Each empty cell with the last that is not to its left. */
function rightwards(cells: readonly string[]): string[] {
  let last = '';
  return cells.map((cell) => (last = cell || last));
}

/** Says what the columns of a table are. */
export function recogniseTable(
  { dialect, headings, units, rows }: HeadTable,
  device: DeviceKind,
  timeHeading?: string,
): LogReading {
  const columns = headings.map((heading, index): ColumnReading => {
    const samples = rows.map((row) => row[index] ?? '');
    const named = units[index] ? `${heading} [${units[index]!.replace(/[[\]()]/g, '')}]` : heading;
    return {
      index,
      heading,
      ...recogniseColumn(named, samples, device, dialect),
      samples: samples.slice(0, 6),
    };
  });
  const time = chooseTime(columns, rows, dialect.decimalChar, timeHeading);
  settleDirections(columns);
  settleCounters(columns, rows, dialect);
  settleBeside(columns, device);
  settleNet(columns, rows, dialect, device);
  settleCells(columns, rows, dialect);
  dropNeedlessPower(columns);
  settleBehaviour(columns, rows, dialect, device);
  settleWarmth(columns, rows, dialect);
  settleDoubles(columns);
  return { dialect, columns, time };
}

/** Reads the head of a log file. @param head its first bytes, ideally 64 KiB or more. @throws NotALog */
export const recognise = (head: Uint8Array, device: DeviceKind, given: Given = {}): LogReading =>
  recogniseTable(headTable(head, given), device, given.timeHeading);
