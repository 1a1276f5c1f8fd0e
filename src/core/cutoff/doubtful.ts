/**
 * Runs that a clock or a limit may have ended: of one length on days that are alike, and each a little above what the load is set to, or
 * low where nobody knows a limit. By the logs alone they are no cut-offs. Where the complaint is of loads that go off, they are what is complained of.
 */

import { isNumber } from '../quantity/numbers';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Complaint } from '../system/schema';
import { medianStep } from '../log/grid';
import { isDaily } from './byClock';
import { AWAY, type Found } from './alike';
import { type Drop, endVolts, isOfCurrent, LEAST_PART } from './drops';
import { idOf, voltLimits } from './loadCurrents';
import { perClass, type Runs } from './runs';
import type { CutOffs } from './types';

/**
 * So far above its limit, V a 12 V block, a cable of usual size lets the battery stand (common practice, no source: 2 % of the voltage);
 * lithium stands little higher than that over its flat part.
 */
const ABOVE = { lead: 0.25, lithium: 0.15 };
/** So many of one current end there, so much of all its runs, and of these so much with a voltage that sinks. */
const LIKE = { fewest: 3, mostly: 0.8, sinking: 0.5 };
/** Where as many were surely cut, and sank slowly, they show what the cable loses: no more than so far above the highest of them, V a 12 V block. */
const HIGHER = 0.03;

/** @param drops all of them @param found what is a cut-off already @param ends what is known to have ended by itself */
export function doubtfulCuts(
  drops: readonly Drop[],
  found: readonly Found[],
  system: KnownSystem,
  ends: Pick<Runs, 'isDone' | 'isAsUncut'>,
): Found[] {
  const { chemistry, capacityAh } = system.bank;
  const blocks = blocksInSeries(system.bank);
  const above = (isLead(chemistry) ? ABOVE.lead : ABOVE.lithium) * blocks;
  const cut = new Set(found.map((one) => one.drop));
  // At the load's own terminals its limit is seen as it is.
  const runs = drops.filter((one) => one.fell >= LEAST_PART * capacityAh && !isNumber(one.loadVolts));
  const isNear = (drop: Drop): boolean => {
    const over = endVolts(drop) - Math.max(...voltLimits(system, drop.load));
    // The last that was written stands higher than the end, by what it sinks until the next.
    const { volts: sunk } = drop.moment.sinks;
    return over > 0 && over <= above + sunk && sunk >= 0 && !(drop.back - drop.at < AWAY);
  };
  /** V up to which runs of a load and a current count; nothing where too few of them end near their limit. */
  const highest = perClass((load, amps) => {
    const like = runs.filter((one) => one.load === load && isOfCurrent(one, amps));
    const there = like.filter((one) => cut.has(one) || isNear(one));
    // A coarse meter does not show each of them sink.
    const sinking = there.filter((one) => cut.has(one) || one.moment.sinks.volts > 0);
    if (there.length < LIKE.fewest || there.length < LIKE.mostly * like.length) return -Infinity;
    if (sinking.length < LIKE.sinking * there.length) return -Infinity;
    const limit = Math.max(...voltLimits(system, load));
    const sure = like.filter((one) => cut.has(one) && endVolts(one) > limit).map(endVolts);
    return sure.length >= LIKE.fewest ? Math.max(...sure) + HIGHER * blocks : Infinity;
  });
  return runs
    .filter((drop) => !cut.has(drop) && isNear(drop) && !ends.isDone(drop) && !ends.isAsUncut(drop))
    .filter((drop) => endVolts(drop) <= highest(drop.load, drop.amps))
    .map((drop) => ({ drop, at: drop.at, by: idOf(drop.load), why: 'volts', moment: drop.moment }));
}

/** So many days on which a load runs from one minute to another, where nobody knows a limit of it, may as well be a clock's. */
const DAILY = 8;

/** Of what low voltages alone make cut-offs, the runs of loads without a known limit that are alike day after day, to the sample. */
export function runDaily(found: readonly Found[], system: KnownSystem): Found[] {
  const low = found.filter(
    ({ drop, why }) => drop !== null && why === 'volts' && voltLimits(system, drop.load).length === 0,
  );
  return [...new Set(low.map(({ drop }) => drop!.load))].flatMap((load) => {
    const own = low.filter(({ drop }) => drop!.load === load);
    const isTimed =
      own.length >= DAILY &&
      isDaily(
        own.map(({ drop }) => drop!),
        medianStep(load.time),
      );
    return isTimed ? own : [];
  });
}

/** Cut-offs as they are weighed: the doubtful ones with them, where the complaint is of loads that go off. */
export function asComplained(cutoffs: CutOffs | null, complaints: readonly Complaint[]): CutOffs | null {
  if (!cutoffs || cutoffs.doubtful.length === 0 || !complaints.includes('premature-cutoff')) return cutoffs;
  const { list, doubtful, nearMisses } = cutoffs;
  return {
    ...cutoffs,
    list: [...list, ...doubtful].sort((a, b) => a.at - b.at),
    doubtful: [],
    nearMisses: nearMisses.filter(
      (miss) => !doubtful.some((one) => miss.at <= one.at && miss.last >= one.at - AWAY),
    ),
  };
}
