/** Cut-offs that nothing else explains: drops of one load that came at one voltage or at one percentage again and again. */

import type { Series } from '../log/channels';
import { medianStep } from '../log/grid';
import { interpolateAt } from '../log/interpolateAt';
import { median, quantile, robustDeviation } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import { byClock, isAtOneTime, isDaily, laterInDay } from './byClock';
import { type Drop, endVolts, isOfCurrent } from './drops';
import { idOf, type LoadCurrent, loadOf, voltLimits } from './loadCurrents';
import type { Moment } from './moment';
import type { CutReason } from './types';

/** Drops whose cause nothing shows are cut-offs where so many came at one voltage or percentage: spread in V a block, and in points. */
const SAME = { fewest: 3, volts: 0.08, points: 0.7, lowest: 0.1 };
/**
 * Two drops alone are cut-offs where they came at the very same voltage, the lowest of the log and well
 * under what anything lets go at: spread in V a block, part of the log, V a block.
 */
const PAIR = { volts: 0.02, lowest: 0.02, under: 0.25 };
/** What was cut off is not back within this. */
export const AWAY = 5 * MINUTE;
/** Above these no disconnect lets go without a setting that says so, V a 12 V block (common practice, no source). */
const HIGHEST = { lead: 12.6, lithium: 12.8 };
/** Few limits of lead lie above this, V a 12 V block (common practice, no source): what runs as long each day, or until one time, and ends higher was ended by a clock. */
const FEW = 12.1;
/** More is asked of what shows such a limit: a battery that is never drawn far stands so high at the end of any load. Spread in V a block, part of the log. */
const HIGH = { volts: 0.03, lowest: 0.03 };
/**
 * Lithium stands higher than that over most of its range. What always goes off at the lowest voltage of the log, and then stays away, may
 * be set so high: V a 12 V block, part of the log, time away.
 */
const SET_HIGH = { volts: 13.1, lowest: 0.003, away: HOUR };

/** A cut-off before trips are put together; its drop, where a load's current shows one. */
export interface Found {
  drop: Drop | null;
  at: number;
  by: string;
  why: CutReason;
  moment: Moment;
}

/**
 * Drops that nothing explains, but that came at one voltage or at one percentage again and again.
 * @param ended beside which other loads went on, and that have ended by themselves
 */
export function alike(
  open: readonly Drop[],
  ended: readonly Drop[],
  system: KnownSystem,
  loads: readonly LoadCurrent[],
  reading: Series | null,
): Found[] {
  const blocks = blocksInSeries(system.bank);
  const lead = isLead(system.bank.chemistry);
  return loads.flatMap((load): Found[] => {
    const away = open.filter((one) => one.load === load && !(one.back - one.at < AWAY));
    const step = medianStep(load.time);
    const timed = new Set(byClock(away, step));
    const drops = away.filter((one) => !timed.has(one) && !endsLikeMost(one, away, ended, step));
    if (drops.length < 2) return [];
    const as = (some: readonly Drop[], why: CutReason): Found[] =>
      some.map((drop) => ({ drop, at: drop.at, by: idOf(load), why, moment: drop.moment }));
    const shown = drops.map((one) => one.moment.shown);
    const falls = median(drops.map(({ moment }) => moment.shownBefore - moment.shown));
    const volts = drops.map((one) => endVolts(one) / blocks);
    const percent = median(shown);
    const level = median(volts);
    const points = robustDeviation(shown);
    const spread = robustDeviation(volts);
    // A level that most stand at is no limit.
    const lowShare = median(drops.map((one) => one.moment.lowShare));
    const enough = drops.length >= SAME.fewest;
    // A load has one percentage: where it is known, no other is looked for. People set round figures: what runs as long each day and ends at
    // another was ended by a clock, and the battery was as full each time.
    const isOpen = loadOf(system, load).every((one) => one.cutoffPercent === undefined);
    // Nor a voltage, where the percentage is all that it is said to go off by.
    const goesByVolts = isOpen || voltLimits(system, load).length > 0;
    const atPercent = drops.filter((one) => Math.abs(one.moment.shown - percent) <= 2);
    const usual = median(atPercent.map((one) => one.amps));
    // What trembles about nothing is no run beside theirs.
    const sameLoad = atPercent.filter((one) => isOfCurrent(one, usual));
    const isRound = Math.abs(percent - 5 * Math.round(percent / 5)) < 0.8;
    // Lead that stood at one voltage each time may have gone off by that; in lithium's flat part nothing does.
    const highest = lead ? HIGHEST.lead : HIGHEST.lithium;
    const byVolts = spread < SAME.volts / 3 && level < highest;
    if (
      isOpen &&
      points <= SAME.points &&
      percent < 90 &&
      !(falls < FALLS) &&
      (enough ? !byVolts : isRound) &&
      (isRound || !isDaily(sameLoad, step)) &&
      !runsBelow(load, reading, percent)
    )
      return as(atPercent, 'percent');
    const [apart, lowest] = lead && level > FEW ? [HIGH.volts, HIGH.lowest] : [SAME.volts, SAME.lowest];
    const isLimit = enough
      ? spread <= apart && lowShare < lowest
      : level < highest - PAIR.under &&
        Math.abs(volts[0]! - volts[1]!) <= PAIR.volts &&
        drops.every(({ moment }) => moment.lowShare < PAIR.lowest);
    const isSetHigh =
      enough &&
      !lead &&
      lowShare < SET_HIGH.lowest &&
      median(drops.map((one) => one.back - one.at)) > SET_HIGH.away;
    const near = drops.filter((_, k) => Math.abs(volts[k]! - level) <= 3 * SAME.volts);
    const isTimed = lead && level > FEW && (isDaily(near, step) || isAtOneTime(near, step));
    return isLimit && goesByVolts && !isTimed && level < (isSetHigh ? SET_HIGH.volts : highest)
      ? as(near, 'volts')
      : [];
  });
}

/** Whether most runs as long as one, that end at its time of the day, have ended by themselves. */
function endsLikeMost(drop: Drop, open: readonly Drop[], ended: readonly Drop[], step: number): boolean {
  const isLike = (one: Drop) =>
    one.load === drop.load &&
    isOfCurrent(one, drop.amps) &&
    (Math.abs(one.ranMs - drop.ranMs) <= 1.5 * step || !drop.beginSeen) &&
    Math.abs(laterInDay(one.at, drop.at)) <= 1.5 * step;
  return ended.filter(isLike).length > open.filter(isLike).length;
}

/** What a percentage lets go has brought the reading down to it, by so many points in the hours before. */
const FALLS = 1;

/** A load that runs so many points under a percentage, for this part of its time, is not cut by it. */
const BELOW = { points: 3, part: 0.01 };

/** A load runs from this part of what it draws at most. */
const RUNS = 0.1;
/** What is left between the meters of a source and of the battery is no load: beside a source that gives, so much more must be drawn. */
const BESIDE_SOURCE = 4;

function runsBelow({ time, amps, given }: LoadCurrent, reading: Series | null, percent: number): boolean {
  if (!reading) return false;
  const shown = interpolateAt(reading.time, reading.channels.soc!, time);
  // A load that stays away for most of the log hardly draws in the middle.
  const running = Math.max(quantile(amps, 0.5) / 2, RUNS * quantile(amps, 0.99));
  let runs = 0;
  let below = 0;
  amps.forEach((one, i) => {
    const least = given && given[i]! > running ? BESIDE_SOURCE * running : running;
    if (!(one > least) || !(shown[i]! >= 0)) return;
    runs++;
    if (shown[i]! < percent - BELOW.points) below++;
  });
  return below > BELOW.part * runs;
}
