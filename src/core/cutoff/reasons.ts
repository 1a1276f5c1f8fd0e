/** What cut a load: a limit of voltage or percentage, its protection, the BMS; null where nothing shows it. */

import type { Refusal } from '../charge/refusals';
import { medianStep } from '../log/grid';
import { clamp } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import { blocksInSeries, deadVolts, isLead } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import { FLOWS, isDrained, isTooSmallToShow } from './drained';
import { type Drop, endVolts } from './drops';
import { idOf, loadOf, voltLimits, WIRING_VOLTS } from './loadCurrents';
import { LONG, type Moment } from './moment';
import type { Runs } from './runs';
import { type CutReason, NEARLY_TRIPS } from './types';

/** How near a setting the log must come, V a 12 V block: at the load's own terminals, and seen from the battery. */
const NEAR = { load: 0.12, battery: 0.25 };
/** The same where other loads draw on: a run that ends by itself looks the same. */
const NEAR_PART = { load: 0.06, battery: 0.12 };
/** Where no setting is known: at this voltage something lets go, V a 12 V block (common practice, no source). */
const LOW = { lead: 11.7, lithium: 12.2 };
/** A start draws so many times what is usual at most. */
const START = 2.2;
/** A start lasts so many samples at most. */
const STARTS = 2;
/** °C by which the BMS's sensor and the logged one may differ. */
const SENSORS = 1.5;
/** A cell this much over the BMS's limit, or under this where none is known, stops the discharge, V. */
const CELL = { over: 0.12, usual: 2.85 };
/** How far over and under a set percentage the reading may stand as it is acted on, points; over it also what it falls by until the next sample. */
const AT_PERCENT = { over: 0.8, under: 2.5, falls: 3 };
/**
 * It comes to its limit within so many samples, in a log with at most so much between two. What the wiring up to the load loses, V a
 * 12 V block, is not seen from the battery: it comes on top where it is sunk through within those samples, or within this part of the run.
 */
const REACHES = 3;
const WIRING_PART = 0.1;
const FINE = 2 * MINUTE;
/** In a log that is written more seldom it comes there within so many rows: from the middle of the last whole one to the end of the next. */
const SELDOM = 1.5;
/** Of what was lost the battery gave so much at least. */
const GIVES = 0.1;

/** A load is back so many points above its percentage, where it is not known at which. */
const BACK = 3;

/** Its voltage was near enough a limit, known or usual, that this may have brought its end; or its percentage was. */
export function mayBeCut(drop: Drop, system: KnownSystem): boolean {
  const { load, moment } = drop;
  const blocks = blocksInSeries(system.bank);
  const own = loadOf(system, load);
  const limits = voltLimits(system, load);
  const low = isLead(system.bank.chemistry) ? LOW.lead : LOW.lithium;
  const limit = limits.length > 0 ? Math.max(...limits) + NEAR.battery * blocks : low * blocks;
  return (
    !(endVolts(drop) > limit) ||
    sinksToLimit(drop, limits, blocks) ||
    own.some(({ cutoffPercent }) => cutoffPercent !== undefined && reaches(moment, cutoffPercent))
  );
}

/** What plainly cut a load, or null. */
export function reasonOf(
  drop: Drop,
  system: KnownSystem,
  stops: readonly Refusal[] | null,
  runs: Runs,
  rounds: number,
): { by: string; why: CutReason } | null {
  const { moment, load, at } = drop;
  const blocks = blocksInSeries(system.bank);
  const near = 2 * medianStep(load.time) + 1.5 * MINUTE;
  const giving = isGiving(drop);
  const cells = stops === null && giving && hasLowCell(moment, system);
  const isStopped = (stops ?? []).some((one) => Math.abs(one.from - at) <= near);
  // A bus that has lost its voltage: whatever stood before it has let go.
  const dead = deadVolts(system.bank);
  const isDead = giving && !(moment.highestV < dead) && moment.after < dead;
  // Between a source and a battery that it charges, two meters read apart make a spike out of nothing.
  const surges = giving && isSurge(drop, system);
  if (isStopped || isDead || cells) return { by: 'bms', why: bmsReason(moment, system, surges) };
  const own = loadOf(system, load);
  for (const { cutoffPercent } of own)
    if (cutoffPercent !== undefined && isAtPercent(drop, cutoffPercent, runs))
      return { by: idOf(load), why: 'percent' };
  const limitA = own.flatMap((one) => (one.surgeA === undefined ? [] : [one.surgeA]));
  if (surges && limitA.length > 0) return { by: idOf(load), why: 'surge' };
  const volts = endVolts(drop);
  const margin = (drop.loadVolts === drop.loadVolts ? NEAR.load : NEAR.battery) * blocks;
  const limits = voltLimits(system, load);
  const low = (isLead(system.bank.chemistry) ? LOW.lead : LOW.lithium) * blocks;
  const limit = limits.length > 0 ? Math.max(...limits) + margin : low;
  // A spike pulls the voltage down too: without a limit that says so, it was the spike, unless the wire alone brought the load so low.
  const byWire = drop.loadVolts <= low && moment.volts > low;
  if (surges && limits.length === 0 && !byWire) return { by: idOf(load), why: 'surge' };
  // A run that went its whole length has ended by itself, however low the voltage was. What is under a known limit was cut, unless runs
  // that no limit can have ended are just as long: it is a load beside the one with the limit.
  const isUnder = limits.length > 0 && volts <= Math.max(...limits) + rounds;
  const ends = () =>
    isUnder
      ? runs.isAsUncut(drop) || ranUnder(drop, limits)
      : runs.isDone(drop) || (limits.length === 0 && runs.hasRunLower(drop));
  const soon = sinksToLimit(drop, limits, blocks);
  const letGo = standsHigher(drop, [], rounds) || isTooSmallToShow(drop.fell, system.bank);
  // A pack that is down is let go by its BMS, where the load is not known to have a limit; what trembles about nothing then is no load.
  if (limits.length === 0 && isDrained(moment, system))
    return giving && letGo && drop.fell > FLOWS * system.bank.capacityAh
      ? { by: 'bms', why: 'cell-low' }
      : null;
  if (
    (giving || (isUnder && !isCharged(drop))) &&
    standsHigher(drop, limits, rounds) &&
    (volts <= limit || soon) &&
    !ends()
  )
    return { by: idOf(load), why: 'volts' };
  if (surges) return { by: idOf(load), why: 'surge' };
  return null;
}

/**
 * The battery gave a part of it at the least: a voltage that a charger lifts comes to no limit, and what it carries goes off with it. Of a
 * load with a log of its own that is not asked: the battery's meter may not see it.
 */
const isGiving = ({ load, moment, fell }: Drop): boolean =>
  load.given === null || !(moment.amps < GIVES * fell);

/** A battery that takes more than the load does rises past a limit: no limit lets go of the load then. */
const isCharged = ({ moment, fell }: Drop): boolean => moment.amps < -fell;

/** A limit that nothing shows lets go of what the battery gave. */
export const gives = (drop: Drop): boolean => isGiving(drop) && !isCharged(drop);

/** With a load away a battery stands higher; where it does not, and no limit is known, a source without a log took over what the load draws. */
export const standsHigher = ({ moment, load }: Drop, limits: readonly number[], rounds: number): boolean =>
  load.hidden === null || limits.length > 0 || !(moment.after <= moment.volts + rounds);

/** A load that ran on for long under its limits does not have the highest of them. */
export const ranUnder = ({ ranMs, moment: { highestV } }: Drop, limits: readonly number[]): boolean =>
  ranMs > LONG && highestV < Math.max(...limits);

/**
 * Whether a voltage that sank on would have come to the highest of the limits that are known with the next samples: a load that ends just
 * there was cut, and on days that are alike cut runs are as alike as those that a clock ends.
 */
function sinksToLimit(drop: Drop, limits: readonly number[], blocks: number): boolean {
  const { at, ranMs, load, loadVolts, moment } = drop;
  const { sinks, sinksLast } = moment;
  const step = medianStep(load.time);
  if (limits.length === 0) return false;
  const over = endVolts(drop) - Math.max(...limits);
  // Seen within the run alone: as a run begins the voltage falls by far more.
  const began = at - ranMs + step;
  if (step > FINE) {
    const near = (loadVolts === loadVolts ? NEAR.load : NEAR.battery) * blocks;
    return began < sinksLast.since && over <= SELDOM * sinksLast.volts + near;
  }
  // Of a run that is too short for that the last two samples tell, as far as the next.
  if (!(began < sinks.since)) return began < sinksLast.since && over <= sinksLast.volts;
  const sunk = REACHES * sinks.volts;
  const wiring = loadVolts === loadVolts ? 0 : WIRING_VOLTS * blocks;
  const isShort = Math.max(REACHES, (WIRING_PART * ranMs) / step) * sinks.volts >= wiring;
  return over <= sunk + (isShort ? wiring : 0);
}

/** What cut a load while others went on: a limit of its own that is known, or null. */
export function reasonOfPart(
  drop: Drop,
  system: KnownSystem,
  runs: Runs,
  rounds: number,
): { by: string; why: CutReason } | null {
  const { load, loadVolts, peak } = drop;
  const blocks = blocksInSeries(system.bank);
  const by = idOf(load);
  for (const { cutoffPercent, cutoffV, surgeA } of loadOf(system, load)) {
    if (surgeA !== undefined && peak >= NEARLY_TRIPS * surgeA) return { by, why: 'surge' };
    if (cutoffPercent !== undefined && isAtPercent(drop, cutoffPercent, runs)) return { by, why: 'percent' };
    if (cutoffV === undefined || isCharged(drop)) continue;
    const own = loadVolts === loadVolts;
    const over = endVolts(drop) - cutoffV;
    const soon = sinksToLimit(drop, [cutoffV], blocks);
    const seen = isGiving(drop) ? (soon ? NEAR.battery : NEAR_PART.battery) : 0;
    const near = (own ? NEAR_PART.load : seen) * blocks;
    // How long a run was that the log begins with is not known.
    const ends =
      runs.isDone(drop) ||
      runs.leavesWhatCutsTake(drop) ||
      (!soon && ((runs.isUsual(drop) && !isBrief(drop)) || !(own || drop.beginSeen)));
    if (
      (over <= near || soon) &&
      !(over <= rounds ? runs.isAsUncut(drop) || ranUnder(drop, [cutoffV]) : ends)
    )
      return { by, why: 'volts' };
  }
  return null;
}

/** A run of fewer samples is as long as others whatever ended it. */
const TELLS_LENGTH = 8;
const isBrief = ({ ranMs, load }: Drop): boolean => ranMs < TELLS_LENGTH * medianStep(load.time);

/**
 * Whether a load that is small beside the battery let go by its percentage: it is back only once the reading is. A pump that comes and
 * goes is back while the reading falls on.
 */
export function staysAway(
  { load, back, moment }: Drop,
  system: KnownSystem,
  readMoment: (at: number) => Moment,
) {
  return loadOf(system, load).some(
    ({ cutoffPercent, reconnectPercent }) =>
      cutoffPercent !== undefined &&
      reaches(moment, cutoffPercent) &&
      readMoment(back).shown >= (reconnectPercent ?? cutoffPercent + BACK) - 1,
  );
}

/** It ran down to its percentage, or was let go at once under it. */
const isAtPercent = (drop: Drop, percent: number, runs: Runs): boolean =>
  reaches(drop.moment, percent) || (drop.moment.shown <= percent + AT_PERCENT.over && runs.isRefused(drop));

/** The reading came down to a percentage, and stands there: it has not stood there for hours. */
const reaches = ({ shown, shownBefore, shownFalls }: Moment, percent: number): boolean =>
  shown <= percent + clamp(shownFalls || 0, AT_PERCENT.over, AT_PERCENT.falls) &&
  shown >= percent - AT_PERCENT.under &&
  (shownBefore !== shownBefore || shownBefore > shown);

function isSurge({ peak, most, ranMs, load }: Drop, system: KnownSystem): boolean {
  const limits = loadOf(system, load).flatMap((one) => (one.surgeA === undefined ? [] : [one.surgeA]));
  if (limits.length > 0) return peak >= NEARLY_TRIPS * Math.min(...limits);
  // What ran for minutes was no start.
  return (
    peak > START * most && peak > 0.1 * system.bank.capacityAh && ranMs <= STARTS * medianStep(load.time)
  );
}

const hasLowCell = ({ lowestV }: Pick<Moment, 'lowestV'>, { bms }: Pick<KnownSystem, 'bms'>): boolean =>
  lowestV <= (bms?.cellLowV === undefined ? CELL.usual : bms.cellLowV + CELL.over);

export function bmsReason(
  { lowestV, volts, celsius }: Moment,
  { bms, bank }: KnownSystem,
  surges: boolean,
): CutReason {
  if (hasLowCell({ lowestV }, { bms })) return 'cell-low';
  if (celsius < (bms?.dischargeAboveC ?? bank.dischargeAboveC ?? -25) + SENSORS) return 'cold';
  if (surges) return 'surge';
  // Without cells a pack that was low is taken for one with a low cell.
  return lowestV !== lowestV && volts < LOW.lithium * blocksInSeries(bank) ? 'cell-low' : 'unknown';
}
