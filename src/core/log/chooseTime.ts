/** Which column, or which two, hold a log's time, and how it is written there. */

import type { ColumnReading } from './recognise';
import { ELAPSED_UNITS, type TimeColumn, timeColumnOf, type TimeFormat } from './timeFormat';

export interface TimeReading {
  format: TimeFormat;
  /** What only a person can tell: whether day or month comes first, or when the first row was written. */
  ask: 'order' | 'start' | null;
}

/**
 * Settles the time of a log and marks its column; other columns lose the role. Null when no column holds times.
 * @param told heading of the column that a person says holds the time
 */
export function chooseTime(
  columns: ColumnReading[],
  rows: readonly (readonly string[])[],
  decimalChar: '.' | ',',
  told?: string,
): TimeReading | null {
  const namedColumn = columns.find((one) => one.heading === told);
  if (namedColumn) namedColumn.role = 'time';
  const seen = new Map<ColumnReading, TimeColumn>();
  for (const column of columns) {
    if (column.role !== null && column.role !== 'time') continue;
    const found = timeColumnOf(
      rows.map((row) => row[column.index] ?? ''),
      decimalChar,
    );
    if (found) seen.set(column, found);
  }
  const named = (column: ColumnReading) => (column.role === 'time' ? 0 : 1);
  const ranked = [...seen].sort(
    ([a, one], [b, other]) => rank(one) - rank(other) || named(a) - named(b) || a.index - b.index,
  );
  // Numbers that rise, or a clock, are a time only where the heading says so.
  const [column, found] =
    ranked.find(([one]) => one === namedColumn) ??
    ranked.find(([one, kind]) => named(one) === 0 || !['rising', 'serial', 'clock'].includes(kind.kind)) ??
    [];
  for (const one of columns) if (one.role === 'time' && one !== column) one.role = null;
  if (!column || !found) return null;
  column.role = 'time';

  const clock = ranked.find(([one, kind]) => one !== column && kind.kind === 'clock')?.[0];
  switch (found.kind) {
    case 'epoch':
      return { format: { kind: 'epoch', unitMs: found.unitMs }, ask: null };
    case 'serial':
      return { format: { kind: 'serial' }, ask: null };
    case 'clock':
      return askStart(column, { kind: 'elapsed', unitMs: 'clock' });
    case 'rising':
      return askStart(column, { kind: 'elapsed', unitMs: elapsedUnit(column.heading) });
    default: {
      const order = found.kind === 'date' ? found.order : 'dmy';
      const format: TimeFormat =
        found.dateOnly && clock
          ? { kind: 'date-and-clock', order, clockColumn: clock.index }
          : { kind: 'date', order };
      if (found.kind === 'date') return { format, ask: null };
      column.sure = 'ask';
      column.question = `In "${column.heading}", day and month cannot be told apart: is it day first or month first?`;
      return { format, ask: 'order' };
    }
  }
}

function askStart(column: ColumnReading, format: TimeFormat): TimeReading {
  column.sure = 'ask';
  column.question = `"${column.heading}" counts from a start: when was the first row written?`;
  return { format, ask: 'start' };
}

/** Dates first, then epochs and serial days, then what only counts. */
function rank({ kind }: TimeColumn): number {
  return ['date', 'ask', 'epoch', 'serial', 'clock', 'rising'].indexOf(kind);
}

function elapsedUnit(heading: string): number {
  const words = heading.toLowerCase().split(/[^a-z]+/);
  return ELAPSED_UNITS.get(words.filter((word) => ELAPSED_UNITS.has(word)).at(-1) ?? 's')!;
}
