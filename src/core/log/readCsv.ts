/**
 * Reads a delimited text log into a {@link Series}, chunk by chunk, straight from bytes to typed columns: no string is made
 * for a cell that reads as a number or a time. It is the hot path of taking a log in; `npm run bench` compares it with others.
 */

import type { LogAnswers } from './answers';
import { type ReadChannel, type Series, stageReader, tellsNoStage } from './channels';
import { deriveChannels } from './deriveChannels';
import { localClock } from './localTime';
import { elapsedClock, usualMoment } from './elapsedClock';
import { lineNumbers } from './lineNumbers';
import { decodeText, lineFeeds, plainBytes } from './encoding';
import { flagNumber, isFlag, isMissing, numberOf, valueWithUnit } from './cells';
import type { Dialect } from './sniff';
import { settleTimes } from './settleTimes';
import { isJump } from './strayRows';
import { dateTimeReader, readClock } from './time';
import type { TimeFormat } from './timeFormat';

export interface ReadPlan {
  device: string;
  dialect: Dialect;
  timeColumn: number;
  timeFormat: TimeFormat;
  /** When the first row was written, epoch ms: for times that count from a start. */
  startMs?: number;
  /** Zone of local times that carry no offset. */
  timeZone: string;
  /** What a person has said of rows that lie years away from the rest. */
  strayRows?: LogAnswers['strayRows'];
  columns: {
    index: number;
    channel: ReadChannel;
    heading: string;
    scale: number;
    offset: number;
    invert: boolean;
    /** Words of the log for stages, where they are not the usual ones. */
    words?: Record<string, string>;
  }[];
}

export interface RowProblem {
  /** Line in the file, from 1. */
  line: number;
  reason: string;
  /** The row as it stands in the file, cut short when it is long; absent where it is about no single row. */
  row?: string;
}

export interface CsvResult {
  series: Series;
  /** Rows of data that were met, read or not. */
  rows: number;
  /** Whether any time was written without an offset, and so was read in the plan's zone. */
  zoned: boolean;
  /** Rows left out and cells taken as missing; the first {@link LISTED_PROBLEMS} of them are in `problems`. */
  problemCount: number;
  problems: RowProblem[];
}

export interface CsvReader {
  push(chunk: Uint8Array): void;
  /** Rows of data that were met so far. */
  rows(): number;
  /** @param cutOff the last line may be half a line: it is let go. @throws LogAsks when only a person can say how it is to be read */
  end(cutOff?: boolean): CsvResult;
}

export const LISTED_PROBLEMS = 10_000;
/** A line longer than this is no row of readings, bytes. */
const LONGEST_LINE = 1 << 20;
/** Characters of a row that are kept with its problem. */
const ROW_KEPT = 300;

const LF = 10;
const CR = 13;
const SPACE = 32;
const QUOTE = 34;
const POWERS = Float64Array.from({ length: 23 }, (_, i) => 10 ** i);

const SKIP = -2;
const TIME = -1;
const CLOCK = -3;
/** No meter of a battery system shows more, whatever its unit. */
const MOST_VALUE = 1e9;

/** 30 December 1899, where spreadsheets begin to count, epoch ms. */
const SERIAL_ZERO = Date.UTC(1899, 11, 30);

const isSwitch = (channel: ReadChannel): boolean =>
  channel === 'bms_charge_allowed' || channel === 'bms_discharge_allowed' || channel === 'source_available';

export function csvReader(plan: ReadPlan): CsvReader {
  const { dialect, columns } = plan;
  const delimiter = dialect.delimiter.charCodeAt(0);
  const decimal = dialect.decimalChar.charCodeAt(0);
  const count = columns.length;
  const { timeFormat } = plan;
  const clockColumn = timeFormat.kind === 'date-and-clock' ? timeFormat.clockColumn : -1;
  const lastColumn = Math.max(plan.timeColumn, clockColumn, ...columns.map((column) => column.index));
  const targets = new Int16Array(lastColumn + 1).fill(SKIP);
  targets[plan.timeColumn] = TIME;
  if (clockColumn >= 0) targets[clockColumn] = CLOCK;
  columns.forEach((column, i) => (targets[column.index] = i));
  const stages = columns.map((column) =>
    column.channel === 'source_stage' ? stageReader(column.words) : null,
  );
  const factor = Float64Array.from(columns, (column) => (column.invert ? -column.scale : column.scale));
  const offset = Float64Array.from(columns, (column) => column.offset);

  const localToUtc = localClock(plan.timeZone);
  const toUtc = (local: number): number => {
    zoned = true;
    return localToUtc(local);
  };
  const readDate = 'order' in timeFormat ? dateTimeReader(timeFormat.order) : null;
  const sinceStart = timeFormat.kind === 'elapsed' ? elapsedClock(plan.startMs ?? 0) : null;

  let capacity = 1 << 14;
  let length = 0;
  let time = new Float64Array(capacity);
  // Cells not yet written are missing, so that a short row needs no special care.
  const values = columns.map(() => new Float32Array(capacity).fill(NaN));

  let line = 0;
  let rows = 0;
  let zoned = false;
  let problemCount = 0;
  const problems: RowProblem[] = [];
  let carry: Uint8Array = new Uint8Array(0);
  /** In a line that is far too long: what comes is let go until it ends. */
  let skipping = false;
  const toPlain = plainBytes();
  const toLines = dialect.loneCr ? lineFeeds() : null;
  const lines = lineNumbers();
  /** Rows at which the time leaps far, as they stand in the file: they may have to be set aside. */
  const jumps = new Map<number, string>();
  let lastMoment = NaN;

  function problem(reason: string): void {
    if (problemCount++ < LISTED_PROBLEMS) problems.push({ line, reason });
  }

  /** Puts the row beside the problems that were found in it. */
  function keepRow(first: number, b: Uint8Array, from: number, to: number): void {
    if (first >= problems.length) return;
    const row = decodeText(b.subarray(from, Math.min(to, from + ROW_KEPT))).trimEnd();
    for (let i = first; i < problems.length; i++) problems[i]!.row = row;
  }

  function grow(): void {
    capacity *= 2;
    const longer = new Float64Array(capacity);
    longer.set(time);
    time = longer;
    for (let i = 0; i < count; i++) {
      const column = new Float32Array(capacity).fill(NaN, length);
      column.set(values[i]!);
      values[i] = column;
    }
  }

  /** A cell that is not a plain number: missing, quoted, with an exponent, a stage word, or wrong. */
  function oddCell(b: Uint8Array, from: number, to: number, target: number): number {
    const text = decodeText(b.subarray(from, to)).trim();
    const column = columns[target]!;
    const stageOf = stages[target];
    if (stageOf) {
      const stage = stageOf(text);
      if (Number.isNaN(stage) && !isMissing(text) && !tellsNoStage(text))
        problem(`"${text}" in "${column.heading}" is no stage that is known.`);
      return stage;
    }
    if (isMissing(text)) return NaN;
    if (isSwitch(column.channel) && isFlag(text)) return flagNumber(text);
    const number = numberOf(text, dialect.decimalChar);
    // A cell that says its own unit is taken by that: some loggers change from mA to A as the figure grows.
    const inUnit = valueWithUnit(text, dialect.decimalChar);
    if (Math.abs(number) <= MOST_VALUE)
      return inUnit === null ? number : inUnit / Math.abs(factor[target]!) + offset[target]!;
    problem(
      `"${text.slice(0, 40)}" in "${column.heading}" ${number === number ? 'is more than any meter shows' : 'is not a number'}; the cell is taken as missing.`,
    );
    return NaN;
  }

  function timeCell(b: Uint8Array, from: number, to: number): number {
    if (readDate) {
      const reading = readDate(b, from, to);
      if (clockColumn >= 0) return reading.ms;
      return reading.hasOffset ? reading.ms : reading.ms === reading.ms ? toUtc(reading.ms) : NaN;
    }
    if (sinceStart && timeFormat.kind === 'elapsed' && timeFormat.unitMs === 'clock')
      return sinceStart(readClock(b, from, to), true);
    const number = numberOf(decodeText(b.subarray(from, to)), dialect.decimalChar);
    switch (timeFormat.kind) {
      case 'epoch':
        return usualMoment(number * timeFormat.unitMs);
      case 'serial': {
        const local = usualMoment(Math.round((SERIAL_ZERO + number * 86_400_000) / 1000) * 1000);
        return local === local ? toUtc(local) : NaN;
      }
      default:
        return sinceStart!(number * (timeFormat as { unitMs: number }).unitMs, false);
    }
  }

  /** Reads whole lines; the byte before `end` must be a line feed, so that no cell can run over it. */
  function readLines(b: Uint8Array, from: number, end: number): void {
    let at = from;
    while (at < end) {
      line++;
      if (line <= dialect.firstDataLine) {
        at = b.indexOf(LF, at) + 1;
        continue;
      }
      if (length === capacity) grow();
      const lineStart = at;
      const problemsBefore = problemCount;
      let moment = NaN;
      let ofDay = NaN;
      for (let column = 0; column <= lastColumn; column++) {
        const target = targets[column]!;
        let c = b[at]!;
        if (c === QUOTE) {
          const cellStart = ++at;
          while (b[at] !== LF && !(b[at] === QUOTE && b[at + 1] !== QUOTE)) at += b[at] === QUOTE ? 2 : 1;
          const cellEnd = at;
          while (b[at] !== delimiter && b[at] !== LF) at++;
          if (target >= 0) put(target, oddCell(b, cellStart, cellEnd, target));
          else if (target === TIME) moment = timeCell(b, cellStart, cellEnd);
          else if (target === CLOCK) ofDay = readClock(b, cellStart, cellEnd);
        } else if (target >= 0) {
          // The fast path: [+-]digits[.digits], then the end of the cell.
          const cellStart = at;
          while (c === SPACE) c = b[++at]!;
          const negative = c === 45;
          if (negative || c === 43) c = b[++at]!;
          let mantissa = 0;
          const digitsStart = at;
          while (c >= 48 && c <= 57) {
            mantissa = mantissa * 10 + (c - 48);
            c = b[++at]!;
          }
          let digits = at - digitsStart;
          let decimals = 0;
          if (c === decimal && c !== delimiter) {
            const decimalsStart = ++at;
            c = b[at]!;
            while (c >= 48 && c <= 57) {
              mantissa = mantissa * 10 + (c - 48);
              c = b[++at]!;
            }
            decimals = at - decimalsStart;
            digits += decimals;
          }
          const value = mantissa / POWERS[decimals]!;
          if ((c === delimiter || c === LF || c === CR) && digits > 0 && digits < 16 && value <= MOST_VALUE) {
            put(target, negative ? -value : value);
          } else {
            while (c !== delimiter && c !== LF && c !== CR) c = b[++at]!;
            put(target, oddCell(b, cellStart, at, target));
          }
        } else {
          let cellStart = at;
          while (c !== delimiter && c !== LF && c !== CR) c = b[++at]!;
          if (target === TIME || target === CLOCK) {
            let cellEnd = at;
            while (cellStart < cellEnd && b[cellStart] === SPACE) cellStart++;
            while (cellEnd > cellStart && b[cellEnd - 1] === SPACE) cellEnd--;
            if (target === TIME) moment = timeCell(b, cellStart, cellEnd);
            else ofDay = readClock(b, cellStart, cellEnd);
          }
        }
        if (b[at] !== delimiter) break;
        at++;
      }
      if (b[at] !== LF) at = b.indexOf(LF, at);
      const lineEnd = at++;
      if (problemCount > problemsBefore) keepRow(problemsBefore, b, lineStart, lineEnd);
      if (clockColumn >= 0) moment = moment + ofDay === moment + ofDay ? toUtc(moment + ofDay) : NaN;
      if (moment !== moment) {
        for (let i = 0; i < count; i++) values[i]![length] = NaN;
        const text = decodeText(b.subarray(lineStart, Math.min(lineEnd, lineStart + 60))).trim();
        // Of a row without a time nothing else is worth saying.
        problemCount = problemsBefore;
        problems.length = Math.min(problems.length, problemsBefore);
        if (text === '') continue;
        rows++;
        problem(`No time could be read in "${text}"; the row is left out.`);
        keepRow(problemsBefore, b, lineStart, lineEnd);
        continue;
      }
      rows++;
      lines.kept(length, line);
      if (isJump(lastMoment, moment) && jumps.size < LISTED_PROBLEMS)
        jumps.set(
          length,
          decodeText(b.subarray(lineStart, Math.min(lineEnd, lineStart + ROW_KEPT))).trimEnd(),
        );
      lastMoment = moment;
      time[length++] = moment;
    }
  }

  function put(target: number, value: number): void {
    values[target]![length] = (value - offset[target]!) * factor[target]!;
  }

  return {
    push(bytes) {
      const plain = toPlain(bytes);
      const chunk = toLines ? toLines(plain) : plain;
      let from = 0;
      if (skipping) {
        const next = chunk.indexOf(LF);
        if (next < 0) return;
        skipping = false;
        from = next + 1;
      } else if (carry.length > 0) {
        const next = chunk.indexOf(LF);
        if (next < 0 && carry.length > LONGEST_LINE) {
          line++;
          rows++;
          problem(`The line is longer than ${LONGEST_LINE / 2 ** 20} MB; it is left out.`);
          keepRow(problems.length - 1, carry, 0, ROW_KEPT);
          carry = new Uint8Array(0);
          skipping = true;
          return;
        }
        const joined = new Uint8Array(carry.length + (next < 0 ? chunk.length : next + 1));
        joined.set(carry);
        joined.set(next < 0 ? chunk : chunk.subarray(0, next + 1), carry.length);
        if (next < 0) {
          carry = joined;
          return;
        }
        readLines(joined, 0, joined.length);
        from = next + 1;
      }
      const last = chunk.lastIndexOf(LF) + 1;
      if (last > from) readLines(chunk, from, last);
      carry = chunk.slice(Math.max(last, from));
    },
    rows: () => rows,
    end(cutOff = false) {
      if (carry.length > 0 && !cutOff) {
        const closed = new Uint8Array(carry.length + 1);
        closed.set(carry);
        closed[carry.length] = LF;
        readLines(closed, 0, closed.length);
      }
      carry = new Uint8Array(0);
      const settled = settleTimes(
        time,
        length,
        (one, other) => values.every((column) => Object.is(column[one], column[other])),
        plan.strayRows,
      );
      for (const { row: at, reason } of settled.stray) {
        if (problemCount++ >= LISTED_PROBLEMS) continue;
        const row = jumps.get(at);
        problems.push({ line: lines.of(at), reason, ...(row === undefined ? {} : { row }) });
      }
      for (const note of settled.notes) problem(note);
      // Each row that was lost counts; the note itself has counted one.
      if (settled.lost > 0) problemCount += settled.lost - 1;
      const { from } = settled;
      const read: Partial<Record<ReadChannel, Float32Array>> = {};
      columns.forEach((column, i) => {
        const all = values[i]!;
        read[column.channel] = from ? Float32Array.from(from, (k) => all[k]!) : all.slice(0, length);
      });
      const { channels, notes } = deriveChannels(read);
      for (const note of notes) problem(note);
      return {
        series: { device: plan.device, time: settled.time, channels },
        zoned,
        rows,
        problemCount,
        problems,
      };
    },
  };
}
