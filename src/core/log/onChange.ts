/** Logs that are written when something changes: between two rows the first of them holds. */

import { quantile, sum } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import type { Series } from './channels';
import { medianStep } from './grid';

/** A log is even, as nearly all are, where so many of its steps, and this part of its time, are about its usual step. */
const EVEN = { steps: 0.9, ofTime: 0.8, about: 2 };
/**
 * Rows come unevenly where so many steps, for this part of the time, are so many times as long as the short ones are; and where a row comes
 * at the latest at a sign of life, as far from the one before as this part of the others, and so many come sooner.
 */
const UNEVEN = { short: 0.1, times: 3, steps: 30, ofTime: 0.2 };
const LIFE = { latest: 0.97, alike: 0.03, part: 0.2, sooner: 0.1, least: 2 * MINUTE };
/** Of the rows that come sooner than the latest, which may be signs of life, hardly any says what the one before said. */
const SAME = 0.005;
/** What was silent for longer was silent: nothing holds over that, ms. */
const HOLDS = HOUR;
/** What holds is repeated so often that no judge takes it for a gap, ms. */
const EVERY = MINUTE;
/** How often such a log looks whether something has changed, where its rows do not come sooner, ms. */
const POLLED = 10_000;

/** The log with its rows repeated for as long as they hold; null where it is not written on change. */
export function heldBetween(series: Series): Series | null {
  const { time } = series;
  if (isEven(time)) return null;
  const steps = Array.from({ length: time.length - 1 }, (_, i) => time[i + 1]! - time[i]!);
  const held = steps.filter((one) => one <= HOLDS);
  const short = quantile(steps, UNEVEN.short);
  const latest = quantile(held, LIFE.latest);
  if (!(isUneven(steps, short) || hasSignsOfLife(held, latest))) return null;
  if (saysTheSame(series, latest > EVEN.about * short ? latest : HOLDS)) return null;
  const polled = Math.min(POLLED, short);
  const times: number[] = [];
  /** The row that each of them repeats. */
  const rows: number[] = [];
  const add = (at: number, row: number) => {
    times.push(at);
    rows.push(row);
  };
  for (let i = 0; i < time.length; i++) {
    add(time[i]!, i);
    // The last time before the next row at which a change would have been written.
    const until = time[i + 1]! - polled;
    if (!(until > time[i]! && time[i + 1]! - time[i]! <= HOLDS)) continue;
    for (let at = time[i]! + EVERY; at < until; at += EVERY) add(at, i);
    add(until, i);
  }
  return {
    ...series,
    time: Float64Array.from(times),
    channels: Object.fromEntries(
      Object.entries(series.channels).map(([channel, values]) => {
        const held = holding(time, values!);
        return [channel, Float32Array.from(rows, (i) => held[i]!)];
      }),
    ),
  };
}

function isEven(time: Float64Array): boolean {
  const usual = medianStep(time);
  let steps = 0;
  let ms = 0;
  for (let i = 1; i < time.length; i++) {
    const step = time[i]! - time[i - 1]!;
    if (step * EVEN.about < usual || step > EVEN.about * usual) continue;
    steps++;
    ms += step;
  }
  const count = time.length - 1;
  return (
    count < UNEVEN.steps || (steps >= EVEN.steps * count && ms >= EVEN.ofTime * (time[count]! - time[0]!))
  );
}

function isUneven(steps: readonly number[], short: number): boolean {
  const long = steps.filter((one) => one > Math.max(UNEVEN.times * short, EVERY) && one <= HOLDS);
  return long.length >= UNEVEN.steps && sum(long) >= UNEVEN.ofTime * sum(steps);
}

/** @param latest step of the latest rows: where many come just then, they are written though nothing has changed */
function hasSignsOfLife(held: readonly number[], latest: number): boolean {
  const alike = held.filter((one) => Math.abs(one / latest - 1) <= LIFE.alike);
  const sooner = held.filter((one) => one < latest / 2);
  return (
    latest >= LIFE.least &&
    alike.length >= LIFE.part * held.length &&
    sooner.length >= Math.max(UNEVEN.steps, LIFE.sooner * held.length)
  );
}

/** Whether rows that come sooner than the latest say what the one before said. */
function saysTheSame({ time, channels }: Series, latest: number): boolean {
  const columns = Object.values(channels);
  let rows = 0;
  let same = 0;
  for (let i = 1; i < time.length; i++) {
    if (time[i]! - time[i - 1]! >= (1 - LIFE.alike) * latest) continue;
    rows++;
    // Object.is: missing twice is the same.
    if (columns.every((values) => Object.is(values![i], values![i - 1]))) same++;
  }
  return same > SAME * rows;
}

/** A column in which what was not written is what it was, for as long as anything holds. */
function holding(time: Float64Array, values: Float32Array): Float32Array {
  const held = values.slice();
  let last = -1;
  for (let i = 0; i < held.length; i++) {
    if (values[i]! === values[i]!) last = i;
    else if (last >= 0 && time[i]! - time[last]! <= HOLDS) held[i] = values[last]!;
  }
  return held;
}
