/**
 * A source that begins to give all at once whenever the battery comes to one temperature, and gives nothing below it. Where each day is as
 * warm as the last, no hour at which it usually gives shows what the cold costs; this does.
 */

import { median, robustDeviation } from '../quantity/numbers';
import { DAY, HOUR, MINUTE } from '../quantity/span';
import { cellStart } from '../log/grid';
import type { ChargeView } from './view';

export interface ColdEdges {
  /** Temperature at which it begins or, where it begins by the clock, ends, °C. */
  atC: number;
  /** How often it began so (none where it only ends so), and how often it ended so though the battery was not full. */
  begins: number;
  ends: number;
  /** Hours colder than that, in which it gave next to nothing. */
  hours: number;
  /** It begins at the same time each day as well, which a clock would explain too. */
  byClock: boolean;
}

/** A source that stood still for so long has ended. */
const APART = 30 * MINUTE;
/** It gives at once where so soon it gives this part of what it then gives; a dawn takes longer. */
const AT_ONCE = { ms: 10 * MINUTE, part: 0.4, of: 2 * HOUR };
/** A run that is shorter does not tell the temperature at which it begins; nor that at which it ends. */
const LEAST_RUN = 20 * MINUTE;
const LEAST_ENDED = 5 * MINUTE;
/** Fewest beginnings; °C that they, and the ends, may scatter by; limits that are set, °C. */
const SAME = { fewest: 3, most: 1.5, deviation: 0.7, from: -1, to: 10 };
/** A source that begins within so long of the same time each day goes by a clock; the sun goes by none, and comes slowly. */
const CLOCK = 15 * MINUTE;
/** °C within which a clock seldom meets the limit that is set. */
const TOLD = 1;
/** Hours below it that must have passed without anything given, but for this part. */
const BELOW = { hours: 10, gave: 0.02 };

/**
 * @param highest V above which a source has no reason to give: it is full
 * @param sun the source is the sun
 * @param toldC °C below which it is set to give nothing, null where nothing is set
 * @returns null without a temperature, or where nothing of it is seen
 */
export function coldEdgesOf(
  view: ChargeView,
  onAmps: number,
  highest: number,
  sun: boolean,
  toldC: number | null,
): ColdEdges | null {
  const { grid, celsius, amps, volts } = view;
  if (!celsius) return null;
  const cells = (ms: number) => Math.max(1, Math.round(ms / grid.step));
  const begins: number[] = [];
  const ends: number[] = [];
  const timesOfDay: number[] = [];
  const quick = cells(AT_ONCE.ms);
  const long = cells(AT_ONCE.of);
  let runs = 0;
  let stops = 0;
  for (const { first, last } of runsAbove(amps, onAmps, cells(APART))) {
    const length = last - first + 1;
    if (length < cells(LEAST_ENDED) || first === 0) continue;
    const middle = (from: number, to: number) =>
      median(amps.subarray(Math.max(first, from), to).filter((one) => one === one));
    const end = last + 1;
    if (end < amps.length && volts[last]! < highest) {
      stops++;
      if (middle(end - quick, end) >= AT_ONCE.part * middle(end - long, end)) ends.push(celsius[last]!);
    }
    if (length < cells(LEAST_RUN)) continue;
    runs++;
    if (middle(first, first + quick) < AT_ONCE.part * middle(first, first + long)) continue;
    begins.push(celsius[first]!);
    timesOfDay.push(cellStart(grid, first) % DAY);
  }
  const isSet = (atC: number) => toldC !== null && Math.abs(atC - toldC) <= TOLD;
  const beginsAt = oneTemperature(begins, runs);
  if (beginsAt !== null) {
    const endsThere = ends.filter((one) => Math.abs(one - beginsAt) <= SAME.most).length;
    // A clock that ends at the temperature at which it begins, day after day, is none either.
    const byClock =
      !sun && robustDeviation(timesOfDay) < CLOCK && endsThere < Math.max(SAME.fewest, 0.6 * runs);
    if (!byClock || isSet(beginsAt)) {
      const hours = hoursWithout(view, onAmps, highest, beginsAt);
      return hours === null
        ? null
        : { atC: beginsAt, begins: begins.length, ends: endsThere, hours, byClock };
    }
  }
  // A clock begins it when it is warm, and the cold of the night ends it: seen where the limit is known.
  const endsAt = oneTemperature(ends, stops);
  if (endsAt === null || !isSet(endsAt)) return null;
  const hours = hoursWithout(view, onAmps, highest, endsAt);
  return hours === null ? null : { atC: endsAt, begins: 0, ends: ends.length, hours, byClock: false };
}

/** The temperature that most of so many runs share, °C; null where they share none that a limit is set to. */
function oneTemperature(celsius: readonly number[], runs: number): number | null {
  if (celsius.length < Math.max(SAME.fewest, 0.6 * runs)) return null;
  const atC = median(celsius);
  if (!(atC >= SAME.from && atC <= SAME.to) || robustDeviation(celsius) > SAME.deviation) return null;
  return celsius.filter((one) => Math.abs(one - atC) <= SAME.most).length < 0.8 * celsius.length ? null : atC;
}

/** Hours colder than a temperature by a degree, in which next to nothing was given; null where they are few, or something was. */
function hoursWithout(
  { grid, celsius, amps, volts }: ChargeView,
  onAmps: number,
  highest: number,
  atC: number,
): number | null {
  let below = 0;
  let gave = 0;
  for (let cell = 0; cell < amps.length; cell++) {
    if (!(celsius![cell]! < atC - 1) || amps[cell]! !== amps[cell]! || volts[cell]! >= highest) continue;
    below++;
    if (amps[cell]! > onAmps) gave++;
  }
  const colder = (below * grid.step) / HOUR;
  return colder < BELOW.hours || gave > BELOW.gave * below ? null : colder;
}

/** Stretches of cells above a current, those that are no further apart taken together. */
function runsAbove(amps: Float32Array, onAmps: number, apart: number): { first: number; last: number }[] {
  const runs: { first: number; last: number }[] = [];
  for (let cell = 0; cell < amps.length; cell++) {
    if (!(amps[cell]! > onAmps)) continue;
    const run = runs.at(-1);
    if (run && cell - run.last <= apart) run.last = cell;
    else runs.push({ first: cell, last: cell });
  }
  return runs;
}
