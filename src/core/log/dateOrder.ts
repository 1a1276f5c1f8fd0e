/** Whether day or month comes first, settled from parts of the whole file where its head does not show it. */

import { decodeText, plainBytes } from './encoding';
import type { ColumnReading, LogReading } from './recognise';
import { splitLine } from './sniff';
import { timeColumnOf } from './timeFormat';

/** Bytes of each part that is looked at, and how many parts over the file. */
export const PART = 32_768;
export const PARTS = 32;

/** Where the parts of a file begin that are looked at: all of it when it is small. */
export function partsOf(size: number): number[] {
  const count = Math.min(PARTS, Math.ceil(size / PART));
  return Array.from({ length: count }, (_, i) =>
    Math.floor(count < PARTS ? i * PART : (i * (size - PART)) / (PARTS - 1)),
  );
}

/** @param parts pieces of a plain text log, in order. @returns the reading, with the order of its dates if they show it */
export function settleDateOrder(reading: LogReading, parts: readonly Uint8Array[]): LogReading {
  const { time, dialect, columns } = reading;
  const column = columns.find((one) => one.role === 'time');
  if (time?.ask !== 'order' || !column) return reading;
  const cells = parts.flatMap((part, i) => {
    const lines = decodeText(plainBytes()(part)).split(/\r\n|\n|\r/);
    // The first line of a part is cut, but for the one at the start of the file; the last one mostly.
    return lines
      .slice(i === 0 ? dialect.firstDataLine : 1, -1)
      .map((line) => splitLine(line, dialect.delimiter)[column.index] ?? '');
  });
  const found = timeColumnOf(cells, dialect.decimalChar);
  if (found?.kind !== 'date') return reading;
  return {
    ...reading,
    columns: columns.map((one) => {
      if (one !== column) return one;
      const settled: ColumnReading = { ...one, sure: 'certain' };
      delete settled.question;
      return settled;
    }),
    time: { format: { ...time.format, order: found.order } as typeof time.format, ask: null },
  };
}
