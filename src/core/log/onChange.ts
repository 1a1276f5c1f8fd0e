/** Logs that are written when something changes: between two rows the first of them holds. */

import { quantile, sum } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import type { Series } from './channels';

/**
 * Rows come unevenly where so many steps, for this part of the time, are so many times as long as the short ones are; and where a row comes
 * at the latest at a sign of life, as far from the one before as this part of the others, and so many come sooner.
 */
const UNEVEN = { short: 0.1, times: 3, steps: 30, ofTime: 0.2 };
const LIFE = { latest: 0.97, alike: 0.03, part: 0.2, sooner: 0.1, least: 2 * MINUTE };
/** Of the rows that come sooner than a sign of life, hardly any says what the one before said. */
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
  const steps = Array.from({ length: Math.max(0, time.length - 1) }, (_, i) => time[i + 1]! - time[i]!);
  const sign = signOfLife(steps);
  if (!(sign !== null || isUneven(steps)) || saysTheSame(series, sign ?? Infinity)) return null;
  const polled = Math.min(POLLED, quantile(steps, UNEVEN.short));
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

function isUneven(steps: readonly number[]): boolean {
  const short = quantile(steps, UNEVEN.short);
  const long = steps.filter((one) => one > Math.max(UNEVEN.times * short, EVERY) && one <= HOLDS);
  return long.length >= UNEVEN.steps && sum(long) >= UNEVEN.ofTime * sum(steps);
}

/** The step after which a row is written though nothing has changed, ms; null where there is none. */
function signOfLife(steps: readonly number[]): number | null {
  const held = steps.filter((one) => one <= HOLDS);
  const latest = quantile(held, LIFE.latest);
  const alike = held.filter((one) => Math.abs(one / latest - 1) <= LIFE.alike);
  const sooner = held.filter((one) => one < latest / 2);
  return latest >= LIFE.least &&
    alike.length >= LIFE.part * held.length &&
    sooner.length >= Math.max(UNEVEN.steps, LIFE.sooner * held.length)
    ? latest
    : null;
}

/** Whether rows that nothing asked for say what the one before said. @param sign ms after which a row may */
function saysTheSame({ time, channels }: Series, sign: number): boolean {
  const columns = Object.values(channels);
  let rows = 0;
  let same = 0;
  for (let i = 1; i < time.length; i++) {
    if (time[i]! - time[i - 1]! >= (1 - LIFE.alike) * Math.min(sign, HOLDS)) continue;
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
