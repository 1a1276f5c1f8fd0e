/**
 * Rows that no battery can have made: a poll that failed and was written as zeros, a voltage three times itself for a row, the value by which
 * a sensor says that it is broken. They stay in the recording, and nothing is judged by them.
 */

import { quantile } from '../quantity/numbers';
import { HOUR, mergeSpans, MINUTE, type Span } from '../quantity/span';
import { type Channel, channelInfo, cellNumber, type Series } from './channels';
import { gapLimit, medianStep } from './grid';
import { stepOf, writtenRows } from './holes';
import { markCurrents, type Possible } from './wildCurrents';

/** What is left out of a log. */
export interface WildRows {
  device: string;
  count: number;
  /** From the row before to the row after each. */
  spans: Span[];
}

/** A wild value lasts no more rows than this: what lasts longer has happened. */
const MOST_ROWS = 2;
/** Of the voltage before: no load takes a battery so low for a row and no charger lifts it so high. */
const VOLTS = { below: 0.3, above: 1.7 };
/** How well the voltages before and after a wild row agree, share. */
const AGREE = 0.1;
/** What has let go does not take hold again so soon, ms. */
const SOON = 4 * MINUTE;
/** Times the capacity: no battery gives or takes such a current, 1/h. Where more than this share of the rows says so, it is the unit. */
const MOST_RATE = 20;
const MOST_SHARE = 0.01;
/** Of more than so many, those within an hour of each other are named together. */
const MOST_SPANS = 200;
/** What there can be. */
const SENSED: Record<string, { least: number; most: number }> = {
  '°C': { least: -60, most: 120 },
  '%': { least: -1, most: 110 },
  V: { least: -1, most: Infinity },
};
/** How far from both its neighbours a value is wild that agree with each other. */
const LEAPS: Record<string, { leap: number; agree: number }> = {
  '°C': { leap: 15, agree: 3 },
  '%': { leap: 20, agree: 3 },
};

interface Marking {
  series: Series;
  /** A longer step between rows like these is a gap, over which nothing can be compared; ms. */
  gap: (rows: Int32Array) => number;
  /** 1 where a row is wild. */
  isWild: Uint8Array;
}

/** @param possible null where it is not known: then no current is too large. */
export function withoutWildRows(
  series: Series,
  possible: Possible | null,
): { series: Series; wild: WildRows | null } {
  const sane = withinSense(series);
  const { time } = sane;
  const marking: Marking = {
    series: sane,
    gap: (rows) => gapLimit(rows.length === time.length ? medianStep(time) : stepOf(time, rows)),
    isWild: new Uint8Array(time.length),
  };
  for (const [channel, values] of Object.entries(sane.channels) as [Channel, Float32Array][]) {
    const { unit } = channelInfo(channel);
    if (unit === 'V' && channel !== 'load_voltage' && channel !== 'source_input_voltage')
      markVolts(marking, channel, series.channels[channel]!);
    else if (LEAPS[unit]) markLeaps(marking, values, LEAPS[unit]);
    else if (unit === 'A' && possible) markRates(marking, values, MOST_RATE * possible.capacityAh);
  }
  if (possible) markCurrents(sane, marking.isWild, possible);
  if (!marking.isWild.includes(1)) return { series: sane, wild: null };
  const kept: number[] = [];
  const spans: Span[] = [];
  marking.isWild.forEach((wild, i) => {
    if (!wild) kept.push(i);
    else spans.push({ from: time[Math.max(0, i - 1)]!, to: time[Math.min(i + 1, time.length - 1)]! });
  });
  return {
    series: {
      ...sane,
      time: Float64Array.from(kept, (i) => time[i]!),
      channels: Object.fromEntries(
        Object.entries(sane.channels).map(([channel, values]) => [
          channel,
          Float32Array.from(kept, (i) => values![i]!),
        ]),
      ),
    },
    wild: {
      device: series.device,
      count: spans.length,
      spans: mergeSpans(spans, spans.length > MOST_SPANS ? HOUR : 0),
    },
  };
}

/** Without the values that no sensor of its kind reads: they may last for weeks, and the rest of their rows is good. */
function withinSense(series: Series): Series {
  let channels = series.channels;
  for (const [channel, values] of Object.entries(channels) as [Channel, Float32Array][]) {
    const sensed = SENSED[channelInfo(channel).unit];
    if (!sensed || !goesBeyond(values, sensed)) continue;
    const sane = values.map((one) => (one < sensed.least || one > sensed.most ? NaN : one));
    channels = { ...channels, [channel]: sane };
  }
  return channels === series.channels ? series : { ...series, channels };
}

function goesBeyond(values: Float32Array, { least, most }: { least: number; most: number }): boolean {
  for (let i = 0; i < values.length; i++) if (values[i]! < least || values[i]! > most) return true;
  return false;
}

/** Whether a voltage is anywhere far from the one before: nearly no log has such a row, and all go through this. */
function leaps(values: Float32Array): boolean {
  let before = NaN;
  for (let i = 0; i < values.length; i++) {
    const volts = values[i]!;
    if (volts !== volts) continue;
    if (volts < VOLTS.below * before || volts > VOLTS.above * before) return true;
    before = volts;
  }
  return false;
}

function markVolts({ series, gap, isWild }: Marking, channel: Channel, values: Float32Array): void {
  if (!leaps(values)) return;
  const { time } = series;
  const rows = writtenRows(values);
  const limit = gap(rows);
  const isSoon = (k: number) => time[rows[k]!]! - time[rows[k - 1]!]! <= limit;
  const current = currentIn(series);
  for (let k = 1; k < rows.length; k++) {
    const volts = values[rows[k]!]!;
    const before = values[rows[k - 1]!]!;
    if (volts >= VOLTS.below * before && volts <= VOLTS.above * before) continue;
    const next = nextLike(values, rows, k, before);
    if (next === null || !isSoon(k) || !isSoon(next)) continue;
    const around = { last: rows[k - 1]!, at: rows[k]!, next: rows[next]! };
    if (volts > before || volts < SENSED.V!.least || !mayHaveLetGo(series, channel, current, around))
      for (let i = k; i < next; i++) isWild[rows[i]!] = 1;
    k = next;
  }
}

/** Which of the rows that follow has the voltage of before again; null where it comes too late. */
function nextLike(values: Float32Array, rows: Int32Array, k: number, before: number): number | null {
  if (!(before > 0)) return null;
  for (let next = k + 1; next <= k + MOST_ROWS; next++)
    if (Math.abs(values[rows[next]!]! - before) <= AGREE * before) return next;
  return null;
}

/** Part of the current beside it from which a current goes on; and of the most that a charger gives, under which it gives nothing. */
const GOES_ON = 0.3;
const NOTHING = 0.02;
/** The most of a battery's current, but for its spikes. */
const MOSTLY = 0.95;

/** The current that a log carries. */
interface Current {
  amps: Float32Array;
  /** A under which a charger gives nothing; a battery's current is one at any size. */
  nothing: number;
  /** A that has to be drawn for a trip to take it along: less is the meter's zero. */
  drawn: number;
}

function currentIn({ channels: { battery_current, source_current } }: Series): Current | null {
  if (battery_current)
    return {
      amps: battery_current,
      nothing: -1,
      drawn: NOTHING * quantile(battery_current.map(Math.abs), MOSTLY),
    };
  if (!source_current) return null;
  return {
    amps: source_current,
    nothing: NOTHING * source_current.reduce((most, one) => (one > most ? one : most), 0),
    drawn: Infinity,
  };
}

/**
 * Whether a voltage that is gone for a row may be a battery that was disconnected. It is none where a current went on, where what has
 * nothing to do with current stands at nothing too, or where all of it came and went sooner than anything takes hold again.
 */
function mayHaveLetGo(
  { time, channels }: Series,
  channel: Channel,
  current: Current | null,
  { last, at, next }: { last: number; at: number; next: number },
): boolean {
  if (cellNumber(channel) !== null) return false;
  const [before, then, after] = [last, at, next].map((i) => current?.amps[i] ?? NaN) as [
    number,
    number,
    number,
  ];
  const most = Math.max(Math.abs(before), Math.abs(after));
  // A charger that gives nothing sees a bus that is dead as well, and nobody goes by it.
  if (current && most <= current.nothing) return true;
  if (Math.abs(then) > GOES_ON * most) return false;
  const failed = (Object.entries(channels) as [Channel, Float32Array][]).some(
    ([one, values]) =>
      (LEAPS[channelInfo(one).unit] || cellNumber(one) !== null) &&
      values[at] === 0 &&
      Math.abs(values[last]!) > 1 &&
      Math.abs(values[next]!) > 1,
  );
  if (failed) return false;
  // What trips, or is cut off when empty, takes what was drawn with it.
  const tripped = current !== null && -before > current.drawn && -before > 2 * Math.abs(after);
  return tripped || time[next]! - time[last]! > SOON;
}

/** Values that leap away for a row and come back. */
function markLeaps(
  { series: { time }, gap, isWild }: Marking,
  values: Float32Array,
  { leap, agree }: { leap: number; agree: number },
): void {
  const rows = writtenRows(values);
  const limit = gap(rows);
  for (let k = 1; k + 1 < rows.length; k++) {
    const last = rows[k - 1]!;
    const at = rows[k]!;
    const next = rows[k + 1]!;
    const before = values[last]!;
    const after = values[next]!;
    if (
      Math.abs(values[at]! - before) > leap &&
      Math.abs(values[at]! - after) > leap &&
      Math.abs(before - after) <= agree &&
      time[at]! - time[last]! <= limit &&
      time[next]! - time[at]! <= limit
    )
      isWild[at] = 1;
  }
}

function markRates({ isWild }: Marking, amps: Float32Array, most: number): void {
  const wild: number[] = [];
  for (let i = 0; i < amps.length; i++) if (Math.abs(amps[i]!) > most) wild.push(i);
  if (wild.length <= MOST_SHARE * amps.length) for (const i of wild) isWild[i] = 1;
}
