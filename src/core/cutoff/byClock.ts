/** Runs that a clock ends, whatever else is alike as they end. */

import { firstAtOrAfter } from '../log/grid';
import { median, quantile } from '../quantity/numbers';
import { DAY, HOUR, MINUTE } from '../quantity/span';
import type { Drop } from './drops';

/** A clock is set to quarters of an hour; ends that lie on one on so many days are its doing. */
const QUARTER = { every: 15 * MINUTE, fewest: 4 };
/**
 * A load that begins on a beat and runs as long each time, charged or not, is switched by its own clock: so short is the beat at most, and
 * so many samples at least, or anything would keep it; so many of the runs do, and so many they are. What a limit lets go and a recovering battery brings back keeps no beat.
 */
const BEAT = { longest: 4 * HOUR, samples: 6, part: 0.9, fewest: 12 };

/** By how much a moment lies later in its day than another in its own, ms: half a day at most, either way. */
export const laterInDay = (one: number, other: number): number =>
  ((((one - other) % DAY) + 1.5 * DAY) % DAY) - DAY / 2;

/** Runs of each day: so many samples long at least, so many of them and this part of all alike; lengths within this part of them. */
const DAILY = { samples: 20, fewest: 4, mostly: 0.8, part: 0.01 };

/**
 * Whether they begin at one time of the day and run as long each time, to the sample: what sinks to a limit takes a little more or less
 * from day to day.
 */
export function isDaily(drops: readonly Drop[], step: number): boolean {
  const whole = drops.filter((one) => one.beginSeen);
  const ms = median(whole.map((one) => one.ranMs));
  const within = Math.max(1.5 * step, DAILY.part * ms);
  const begins = whole.map(({ at, ranMs }) => at - ranMs);
  // By how much each begins later in its day than the first.
  const later = begins.map((one) => laterInDay(one, begins[0]!));
  const begin = median(later);
  const alike = whole.filter(
    ({ ranMs }, k) => Math.abs(ranMs - ms) <= within && Math.abs(later[k]! - begin) <= within,
  ).length;
  return ms >= DAILY.samples * step && alike >= DAILY.fewest && alike >= DAILY.mostly * whole.length;
}

/** Ends on so many days at least, this part of them at one time. */
const EVENINGS = { fewest: 6, mostly: 0.8 };

/** Whether runs end at one time of the day, to a row of a log that is written seldom: more of when a load went off it does not show. */
export function isAtOneTime(drops: readonly Drop[], step: number): boolean {
  if (step <= QUARTER.every / 3) return false;
  const later = drops.map((one) => laterInDay(one.at, drops[0]!.at));
  const middle = median(later);
  const alike = later.filter((one) => Math.abs(one - middle) <= step).length;
  return alike >= EVENINGS.fewest && alike >= EVENINGS.mostly * drops.length;
}

/**
 * So many ends at one time of the day, this part of all within half an hour of it, of runs that begin further apart, in samples: what began
 * later ran shorter. Ends that lie all over the hour meet by chance.
 */
const LATER = { fewest: 4, mostly: 0.7, near: HOUR / 2, apart: 3 };

/** Runs that end at one time of the day, whenever they began: a load that comes back within its hours has the rest of them. */
export function endOnTime(drops: readonly Drop[], step: number): Set<Drop> {
  const whole = drops.filter((one) => one.beginSeen).sort((a, b) => (a.at % DAY) - (b.at % DAY));
  // A year of a load that cycles has tens of thousands: the days are laid over each other once, midnight in between.
  const round = [-DAY, 0, DAY].flatMap((off) =>
    whole.map((drop) => ({ drop, clock: (drop.at % DAY) + off })),
  );
  const clocks = Float64Array.from(round, (one) => one.clock);
  const within = (at: number, ms: number): [number, number] => [
    firstAtOrAfter(clocks, (at % DAY) - ms),
    firstAtOrAfter(clocks, (at % DAY) + ms + 1),
  ];
  return new Set(
    whole.filter(({ at }) => {
      const [first, end] = within(at, step);
      const [from, to] = within(at, LATER.near);
      if (end - first < Math.max(LATER.fewest, LATER.mostly * (to - from))) return false;
      const begins = round.slice(first, end).map(({ drop }) => laterInDay(drop.at - drop.ranMs, at));
      return quantile(begins, 0.9) - quantile(begins, 0.1) >= LATER.apart * step;
    }),
  );
}

/** @param drops of one load. @param step between samples, ms */
export const byClock = (drops: readonly Drop[], step: number): Drop[] =>
  isOnBeat(drops, step) ? [...drops] : onQuarters(drops, step);

/** Drops that come at one time of the day on a quarter of the hour; zones lie whole quarters apart. */
function onQuarters(drops: readonly Drop[], step: number): Drop[] {
  // A log written more seldom shows any end on a quarter.
  if (step > QUARTER.every / 3) return [];
  const onQuarter = drops.filter(({ at }) => at % QUARTER.every <= step);
  return onQuarter.filter(
    ({ at }) => onQuarter.filter((one) => Math.abs(laterInDay(one.at, at)) <= step).length >= QUARTER.fewest,
  );
}

function isOnBeat(drops: readonly Drop[], step: number): boolean {
  // How long a run was that the log begins with is not known.
  const whole = drops.filter((one) => one.beginSeen);
  if (whole.length < BEAT.fewest) return false;
  const begins = whole.map(({ at, ranMs }) => at - ranMs);
  const about = median(begins.slice(1).map((at, i) => at - begins[i]!));
  if (about > BEAT.longest || about < BEAT.samples * step) return false;
  const all = begins.at(-1)! - begins[0]!;
  const beat = all / Math.round(all / about);
  const length = median(whole.map((one) => one.ranMs));
  const kept = whole.filter(({ ranMs }, i) => {
    const beats = (begins[i]! - begins[0]!) / beat;
    return Math.abs(beats - Math.round(beats)) * beat <= step && Math.abs(ranMs - length) <= step;
  });
  return kept.length >= BEAT.part * whole.length;
}
