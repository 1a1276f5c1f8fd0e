/** How a log writes its times, settled from its columns: nothing is guessed that two readings would fit. */

import { numberedDate } from './writtenDate';

export type DateOrder = 'ymd' | 'dmy' | 'mdy';

export type TimeFormat =
  /** Date and time in one cell, with or without an offset. */
  | { kind: 'date'; order: DateOrder }
  /** The date in one column, the time of day in another. */
  | { kind: 'date-and-clock'; order: DateOrder; clockColumn: number }
  | { kind: 'epoch'; unitMs: number }
  /** Days since 30 December 1899 on the local clock, as spreadsheets count. */
  | { kind: 'serial' }
  /** Counted from a start that only a person can tell: numbers of `unitMs`, or hh:mm:ss when it is 'clock'. */
  | { kind: 'elapsed'; unitMs: number | 'clock' };

/** What a column of cells can be as time; `clock` is a time of day that needs a date, 'ask' a date whose order nobody can see. */
export type TimeColumn =
  | { kind: 'date'; order: DateOrder; dateOnly: boolean }
  | { kind: 'ask'; dateOnly: boolean }
  | { kind: 'clock' }
  | { kind: 'epoch'; unitMs: number }
  | { kind: 'serial' }
  | { kind: 'rising' };

const YMD = /^\d{4}[-/.]\d{1,2}[-/.]\d{1,2}([T ,_-]|$)/;
const TWO_FIRST = /^(\d{1,2})[-/.](\d{1,2})[-/.](\d{4}|\d{2})([T ,_-]|$)/;
const DATE_ONLY = /^\d{1,4}[-/.]\d{1,2}[-/.]\d{1,4}$/;
const CLOCK = /^(\d+ ?d(ays?)?,? ?)?\d{1,5}:\d{2}(:\d{2}([.,]\d+)?)?( ?[ap]m)?$/i;

/** Seconds since 1970 of the years that logs come from. */
const FROM_2000 = 946_684_800;
const TO_2100 = 4_102_444_800;
/** The same in days of a spreadsheet. */
const SERIAL_2000 = 36_526;
const SERIAL_2100 = 73_051;

/** Settles what the cells of one column are as times; null when they are none. @param decimalChar of the log's numbers */
export function timeColumnOf(cells: readonly string[], decimalChar: '.' | ',' = '.'): TimeColumn | null {
  const filled = cells.filter((cell) => cell !== '');
  if (filled.length === 0) return null;
  // A heading that comes again or a line of totals may stand among the times.
  const most = (test: (cell: string) => boolean) => {
    const others = filled.filter((cell) => !test(cell)).length;
    return others <= 0.1 * filled.length || (others <= 2 && others < filled.length / 2);
  };
  const dateOnly = most((cell) => DATE_ONLY.test(cell));
  if (most((cell) => YMD.test(cell))) return { kind: 'date', order: 'ymd', dateOnly };
  if (most((cell) => TWO_FIRST.test(cell))) {
    let dayFirst = false;
    let monthFirst = false;
    for (const cell of filled) {
      const match = TWO_FIRST.exec(cell);
      if (Number(match?.[1]) > 12) dayFirst = true;
      if (Number(match?.[2]) > 12) monthFirst = true;
    }
    if (dayFirst !== monthFirst) return { kind: 'date', order: dayFirst ? 'dmy' : 'mdy', dateOnly };
    const order = dayFirst ? null : orderOfMidnights(filled);
    return order ? { kind: 'date', order, dateOnly } : { kind: 'ask', dateOnly };
  }
  if (most((cell) => CLOCK.test(cell))) return { kind: 'clock' };
  const numbered = filled.map(numberedDate);
  if (numbered.filter((one) => one !== null).length >= 0.9 * filled.length)
    return { kind: 'date', order: 'ymd', dateOnly: most((cell) => DATE_ONLY.test(numberedDate(cell) ?? '')) };

  const numbers = filled.map((cell) => Number(decimalChar === ',' ? cell.replace(',', '.') : cell));
  const known = numbers.filter((n) => Number.isFinite(n));
  if (known.length < 0.9 * filled.length || known.length < 2) return null;
  const rising = known.filter((n, i) => i === 0 || n >= known[i - 1]!).length;
  if (rising < 0.9 * known.length) return null;
  const within = (low: number, high: number, scale = 1) =>
    known.filter((n) => n * scale > low && n * scale < high).length >= 0.9 * known.length;
  for (const unitMs of [1000, 1, 0.001])
    if (within(FROM_2000, TO_2100, unitMs / 1000)) return { kind: 'epoch', unitMs };
  if (within(SERIAL_2000, SERIAL_2100) && known.some((n) => !Number.isInteger(n))) return { kind: 'serial' };
  // Strictly rising, as a count of seconds is and a measured value is not.
  const strictly = known.filter((n, i) => i === 0 || n > known[i - 1]!).length;
  return strictly >= 0.9 * known.length && known[0]! >= 0 ? { kind: 'rising' } : null;
}

/** A date and a clock, for what happens at midnight. */
const DATE_AND_CLOCK = /^(\d{1,2})[-/.](\d{1,2})[-/.](\d{2,4})[T ,]+(\d{1,2}):(\d{2})/;

/**
 * Where a log runs through midnight, one minute is the day's last and the next the first of the day after: that shows which number is the
 * day. Null where no midnight shows it, or midnights contradict each other.
 */
function orderOfMidnights(cells: readonly string[]): 'dmy' | 'mdy' | null {
  const seen = { dmy: 0, mdy: 0 };
  let before: number[] | null = null;
  for (const cell of cells) {
    const match = DATE_AND_CLOCK.exec(cell);
    const now: number[] | null = match ? match.slice(1).map(Number) : null;
    if (now && before && (now[0] !== before[0] || now[1] !== before[1])) {
      for (const order of ['dmy', 'mdy'] as const) {
        const step = momentOf(now, order) - momentOf(before, order);
        if (step > 0 && step <= NIGHT_STEP) seen[order]++;
      }
    }
    if (now) before = now;
  }
  if (seen.dmy > 0 === seen.mdy > 0) return null;
  return seen.dmy > 0 ? 'dmy' : 'mdy';
}

/** The longest step over midnight that is taken for a log that runs through, ms. */
const NIGHT_STEP = 3_600_000;

function momentOf([a, b, year, hour, minute]: number[], order: 'dmy' | 'mdy'): number {
  const [day, month] = order === 'dmy' ? [a!, b!] : [b!, a!];
  return Date.UTC(year! < 100 ? 2000 + year! : year!, month - 1, day, hour, minute);
}

/** Units that time since a start is counted in, ms. */
export const ELAPSED_UNITS: ReadonlyMap<string, number> = new Map(
  Object.entries({
    ms: 1,
    msec: 1,
    milliseconds: 1,
    millis: 1,
    s: 1000,
    sec: 1000,
    secs: 1000,
    second: 1000,
    seconds: 1000,
    min: 60_000,
    mins: 60_000,
    minute: 60_000,
    minutes: 60_000,
    h: 3_600_000,
    hr: 3_600_000,
    hrs: 3_600_000,
    hour: 3_600_000,
    hours: 3_600_000,
  }),
);
