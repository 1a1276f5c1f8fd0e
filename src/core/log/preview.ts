/** What is shown of a log before it is taken in: its first rows, a trace of each column, and which way its current counts. */

import type { Series } from './channels';
import { medianStep } from './grid';
import type { CsvResult } from './readCsv';
import { csvReader } from './readCsv';
import type { HeadTable, LogReading } from './recognise';
import { type Sign, signOf } from './sign';
import { numberOf, valueWithUnit } from './cells';
import { NotALog } from './sniff';
import { type LogDescription, planReading, tooFewRows } from './takeIn';

export interface Preview {
  headings: string[];
  rows: string[][];
  /** Values over the head for each column, in the units of the file, in V, A and so on where cells carry their own; NaN where there is no number. Null for a column of words. */
  traces: (number[] | null)[];
  /** For each column of numbers, by its index: what a positive value would mean, were it the battery's current. */
  signs: Record<number, Sign>;
}

const SHOWN_ROWS = 8;
const TRACE_POINTS = 160;

export function previewOf({ dialect, headings, rows }: HeadTable, reading: LogReading): Preview {
  const stride = Math.max(1, Math.floor(rows.length / TRACE_POINTS));
  // Cells that carry their units may change them from row to row.
  const valueOf = (cell: string) =>
    valueWithUnit(cell, dialect.decimalChar) ?? numberOf(cell, dialect.decimalChar);
  const valuesOf = (index: number) => rows.map((row) => valueOf(row[index] ?? ''));
  const traces = headings.map((_, index) => {
    const values = rows.filter((__, i) => i % stride === 0).map((row) => valueOf(row[index] ?? ''));
    return values.some((value) => value === value) ? values : null;
  });
  const volts = reading.columns.find((one) =>
    ['battery_voltage', 'source_voltage', 'load_voltage'].includes(one.role ?? ''),
  );
  const signs: Preview['signs'] = {};
  traces.forEach((trace, index) => {
    if (trace && index !== volts?.index)
      signs[index] = volts ? signOf(valuesOf(index), valuesOf(volts.index)) : 'unclear';
  });
  return { headings, rows: rows.slice(0, SHOWN_ROWS), traces, signs };
}

export interface HeadTimes {
  /** Epoch ms of the first and last row of the head, and the step between rows. */
  from: number;
  to: number;
  stepMs: number;
}

/** Reads the start of a file as the whole of it would be read. @throws NotALog with what is missing */
export function readStart(
  start: Uint8Array,
  reading: LogReading,
  description: LogDescription,
  timeZone: string,
): Series {
  const reader = csvReader(planReading(reading, description, timeZone));
  // It mostly ends in the middle of a line.
  const last = start.lastIndexOf(10) + 1;
  reader.push(last > 0 ? start.subarray(0, last) : start);
  const result: CsvResult = reader.end();
  if (result.series.time.length < 2) throw new NotALog(tooFewRows(result));
  return result.series;
}

/** @throws NotALog with what is missing */
export function timesOfHead(...args: Parameters<typeof readStart>): HeadTimes {
  const { time } = readStart(...args);
  return { from: time[0]!, to: time[time.length - 1]!, stepMs: medianStep(time) };
}
