/** Reads the times of a log from bytes. */

import { DAY } from '../quantity/span';

import type { DateOrder } from './timeFormat';
import { numberedDate } from './writtenDate';

/** Years that the clock of a logger can show; others are no readings of it. */
const FIRST_YEAR = 1970;
const LAST_YEAR = 2199;

const MINUS = 45;
const PLUS = 43;
const COLON = 58;
const H = 104;
/** What stands between a date and its time of day: a space, T, a comma, an underscore, a dash. */
const BETWEEN = [32, 84, 44, 95, 45];

/** Zones by the names that loggers write, minutes east of Greenwich. */
const ZONES: Readonly<Record<string, number>> = {
  ...{
    utc: 0,
    gmt: 0,
    wet: 0,
    west: 60,
    bst: 60,
    cet: 60,
    cest: 120,
    mez: 60,
    mesz: 120,
    eet: 120,
    eest: 180,
  },
  ...{ est: -300, edt: -240, cst: -360, cdt: -300, mst: -420, mdt: -360, pst: -480, pdt: -420 },
};

/** What {@link readDateTime} found. `hasOffset` says that `ms` is UTC; otherwise it is the local clock as if it were UTC. */
export interface DateTimeReading {
  ms: number;
  hasOffset: boolean;
}

/**
 * A reader of date-times in bytes, such as 2026-09-21T06:30:00Z, 21.09.2026 06:30 or 9/21/26 6:30:15 PM; as year, month and day also
 * 21 Sep 2026 06:30 and 20260921T063000. It keeps the last date, because neighbours in a log nearly always share it. Returns ms = NaN
 * for what is no date-time.
 */
export function dateTimeReader(
  order: DateOrder,
): (b: Uint8Array, from: number, to: number) => DateTimeReading {
  const reading: DateTimeReading = { ms: NaN, hasOffset: false };
  let lastKey = -1;
  let lastDay = NaN;
  // Where year, month and day stand.
  const [yearAt, monthAt, dayAt] = { ymd: [0, 1, 2], dmy: [2, 1, 0], mdy: [2, 0, 1] }[order] as [
    number,
    number,
    number,
  ];
  const part = [0, 0, 0];

  /** 2026-09-21 06:30:00 on the same day as the reading before: by far the commonest case, so it goes straight through. */
  function usual(b: Uint8Array, from: number): boolean {
    if (b[from + 4] !== MINUS || b[from + 7] !== MINUS || b[from + 13] !== COLON || b[from + 16] !== COLON)
      return false;
    const key =
      (twoDigits(b, from) * 100 + twoDigits(b, from + 2)) * 10000 +
      twoDigits(b, from + 5) * 100 +
      twoDigits(b, from + 8);
    if (key !== lastKey) return false;
    const hours = twoDigits(b, from + 11);
    const minutes = twoDigits(b, from + 14);
    const seconds = twoDigits(b, from + 17);
    if (!(hours < 24 && minutes < 60 && seconds < 60)) return false;
    reading.ms = lastDay + hours * 3_600_000 + minutes * 60_000 + seconds * 1000;
    return true;
  }

  function read(b: Uint8Array, from: number, to: number): DateTimeReading {
    const length = to - from;
    if (order === 'ymd' && (length === 19 || (length === 20 && b[to - 1] === 90)) && usual(b, from)) {
      reading.hasOffset = length === 20;
      return reading;
    }
    reading.ms = NaN;
    reading.hasOffset = false;
    let at = from;
    let value = 0;
    let digits = 0;
    let field = 0;
    for (; at < to; at++) {
      const c = b[at]! - 48;
      if (c >= 0 && c <= 9) {
        value = value * 10 + c;
        digits++;
        continue;
      }
      if (digits === 0) return reading;
      part[field++] = value;
      value = 0;
      digits = 0;
      if (field === 3) break;
    }
    if (field === 2 && digits > 0 && at >= to) part[field++] = value;
    if (field !== 3) return reading;
    let year = part[yearAt]!;
    const month = part[monthAt]!;
    const day = part[dayAt]!;
    if (year < 100) year += 2000;
    if (year < FIRST_YEAR || year > LAST_YEAR) return reading;
    const key = year * 10000 + month * 100 + day;
    if (key !== lastKey) {
      const utc = Date.UTC(year, month - 1, day);
      const back = new Date(utc);
      if (month < 1 || month > 12 || back.getUTCDate() !== day) return reading;
      lastKey = key;
      lastDay = utc;
    }
    while (at < to && BETWEEN.includes(b[at]!)) at++;
    if (at >= to) {
      reading.ms = lastDay;
      return reading;
    }
    const ms = clock(at, b, to, reading);
    reading.ms = lastDay + ms;
    return reading;
  }

  return (b, from, to) => {
    read(b, from, to);
    if (order !== 'ymd' || reading.ms === reading.ms) return reading;
    const numbered = numberedDate(text.decode(b.subarray(from, to)).trim());
    const plain = numbered === null ? null : bytes.encode(numbered);
    return plain ? read(plain, 0, plain.length) : reading;
  };
}

const text = new TextDecoder();
const bytes = new TextEncoder();

/** Time of day from bytes, ms; subtracts a UTC offset when one is written and says so in `reading`. NaN when unreadable. */
function clock(from: number, b: Uint8Array, to: number, reading: DateTimeReading): number {
  let at = from;
  let hours = 0;
  let minutes = 0;
  let seconds = 0;
  let digits = 0;
  for (; at < to && isDigit(b[at]!); at++, digits++) hours = hours * 10 + b[at]! - 48;
  if (digits === 0 || (b[at] !== COLON && b[at] !== 46 && b[at] !== H)) return NaN;
  at++;
  digits = 0;
  for (; at < to && isDigit(b[at]!); at++, digits++) minutes = minutes * 10 + b[at]! - 48;
  if (digits !== 2) return NaN;
  let milliseconds = 0;
  if (b[at] === COLON || b[at] === 46) {
    at++;
    digits = 0;
    for (; at < to && isDigit(b[at]!); at++, digits++) seconds = seconds * 10 + b[at]! - 48;
    if (digits === 0) return NaN;
    if (b[at] === 46 || b[at] === 44) {
      at++;
      let scale = 100;
      for (; at < to && isDigit(b[at]!); at++) {
        milliseconds += (b[at]! - 48) * scale;
        scale /= 10;
      }
    }
  }
  let offset = 0;
  while (at < to && b[at] === 32) at++;
  const zone = zoneOf(b, at, to);
  if (zone !== null) {
    reading.hasOffset = true;
    offset = ZONES[zone]!;
    at += zone.length;
  }
  if (at < to) {
    const c = b[at]!;
    if (c === 90 || c === 122) {
      reading.hasOffset = true;
      at++;
    } else if (c === PLUS || c === MINUS) {
      const sign = c === MINUS ? -1 : 1;
      at++;
      let value = 0;
      digits = 0;
      for (; at < to; at++) {
        if (b[at] === COLON) continue;
        if (!isDigit(b[at]!)) return NaN;
        value = value * 10 + b[at]! - 48;
        digits++;
      }
      if (digits !== 2 && digits !== 4) return NaN;
      // The widest offsets are −12 and +14 hours.
      if (digits === 4 ? value > 1400 || value % 100 > 59 : value > 14) return NaN;
      offset = sign * (digits === 2 ? value * 60 : Math.floor(value / 100) * 60 + (value % 100));
      reading.hasOffset = true;
    } else {
      const letter = c | 32;
      if ((letter !== 97 && letter !== 112) || (b[at + 1]! | 32) !== 109) return NaN;
      if (hours < 1 || hours > 12) return NaN;
      hours = (hours % 12) + (letter === 112 ? 12 : 0);
      at += 2;
    }
    if (at < to) return NaN;
  }
  if (hours > 24 || minutes > 59 || seconds > 60 || (hours === 24 && minutes + seconds > 0)) return NaN;
  const ms = hours * 3_600_000 + (minutes - offset) * 60_000 + seconds * 1000 + milliseconds;
  return ms > 2 * DAY ? NaN : ms;
}

/**
 * Time of day, or time since a start, from bytes: 6:30, 06:30:15.250, 6:30 PM, 1d 06:30:00, 130:05:00. ms; NaN for what is neither.
 */
export function readClock(b: Uint8Array, from: number, to: number): number {
  let at = from;
  let days = 0;
  let digits = 0;
  for (; at < to && isDigit(b[at]!); at++, digits++) days = days * 10 + b[at]! - 48;
  if (digits > 0 && at < to && (b[at]! | 32) === 100) {
    at++;
    while (at < to && (isLetter(b[at]!) || b[at] === 32)) at++;
  } else {
    at = from;
    days = 0;
  }
  // More than a day's hours are time since a start: they are read as days and hours.
  let hours = 0;
  digits = 0;
  const hoursAt = at;
  for (; at < to && isDigit(b[at]!); at++, digits++) hours = hours * 10 + b[at]! - 48;
  if (digits === 0) return NaN;
  if (hours <= 24) return days * DAY + clock(hoursAt, b, to, { ms: NaN, hasOffset: false });
  const rest = new Uint8Array(to - at + 1);
  rest[0] = 48;
  rest.set(b.subarray(at, to), 1);
  return days * DAY + hours * 3_600_000 + clock(0, rest, rest.length, { ms: NaN, hasOffset: false });
}

const isLetter = (byte: number): boolean => (byte | 32) >= 97 && (byte | 32) <= 122;

/** The name of a zone that begins here, with nothing but an offset from it after it; null where none does. */
function zoneOf(b: Uint8Array, from: number, to: number): string | null {
  let at = from;
  let name = '';
  for (; at < to && isLetter(b[at]!); at++) name += String.fromCharCode(b[at]! | 32);
  return Object.hasOwn(ZONES, name) ? name : null;
}

/** Two digits as a number; NaN when either is none. */
function twoDigits(b: Uint8Array, at: number): number {
  const tens = b[at]! - 48;
  const ones = b[at + 1]! - 48;
  return tens >= 0 && tens <= 9 && ones >= 0 && ones <= 9 ? tens * 10 + ones : NaN;
}

const isDigit = (byte: number): boolean => byte >= 48 && byte <= 57;
