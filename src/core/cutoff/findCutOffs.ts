/**
 * When loads went off although nobody switched them off: by their own limit of voltage or percentage, by their protection, by the BMS.
 * A drop of the current alone is none: something must show what cut it.
 */

import { interpolateAt } from '../count/interpolateAt';
import type { Counting } from '../count/types';
import { type Refusal, refusalsOf } from '../charge/refusals';
import { firstAtOrAfter, gapLimit, medianStep } from '../log/grid';
import { anyLogWith, type Timeline } from '../log/timeline';
import { median, quantile, robustDeviation } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Load } from '../system/schema';
import type { LoadCurrent } from './loadCurrents';
import { momentReader, type Moment } from './moment';
import type { CutOff, CutReason } from './types';

/** What draws less than this is off: parts of what it usually draws, and of the capacity in A. */
const OFF = { usual: 0.15, capacity: 0.0015 };
/** What happened just before: so long, or so many samples. */
const BEFORE = { ms: 3 * MINUTE, samples: 3 };
/** Trips of one load within this are one cut-off. */
export const TOGETHER = 30 * MINUTE;
/** How near a setting the log must come, V a 12 V block: at the load's own terminals, and seen from the battery. */
const NEAR = { load: 0.12, battery: 0.25 };
/** Where no setting is known: at this voltage something lets go, V a 12 V block (common practice, no source). */
const LOW = { lead: 11.7, lithium: 12.2 };
/** Drops whose cause nothing shows are cut-offs where so many came at one voltage or percentage: spread in V a block, and in points. */
const SAME = { fewest: 3, volts: 0.08, points: 0.7, lowest: 0.1 };
/** A start draws so many times what is usual at most. */
const START = 2.2;
/** A cell this much over the BMS's limit, or under this where none is told, stops the discharge, V. */
const CELL = { over: 0.12, usual: 2.85 };

/** A drop of a load's current to nothing. */
interface Drop {
  load: LoadCurrent;
  at: number;
  back: number;
  /** A just before, and at most in that time. */
  amps: number;
  peak: number;
  /** What it hardly ever draws more than, A. */
  most: number;
  /** V at the load's terminals at least, NaN where not logged. */
  loadVolts: number;
  moment: Moment;
}

interface Found {
  drop: Drop | null;
  at: number;
  by: string;
  why: CutReason;
  moment: Moment;
}

export function findCutOffs(
  system: KnownSystem,
  timeline: Timeline,
  loads: readonly LoadCurrent[],
  counting: Counting | null,
): CutOff[] {
  const readMoment = momentReader(timeline, counting);
  const drops = loads.flatMap((load) => dropsOf(load, system.bank.capacityAh, readMoment));
  // Null where the BMS does not say when it stopped the discharge: then its cells do.
  const stops = refusalsOf(timeline, 'bms_discharge_allowed');
  const found: Found[] = [];
  const open: Drop[] = [];
  for (const drop of drops) {
    // While the BMS lets nothing out the loads come and go with the chargers: that is one stop.
    if (stops?.some((one) => drop.at > one.from + TOGETHER && drop.at <= one.to + TOGETHER)) continue;
    const told = reasonOf(drop, system, stops);
    if (told) found.push({ ...told, drop, at: drop.at, moment: drop.moment });
    else open.push(drop);
  }
  found.push(...alike(open, system, loads));
  // What the BMS says stopped, though no load's current was logged.
  for (const { from: at } of stops ?? [])
    if (!found.some((one) => one.by === 'bms' && Math.abs(one.at - at) < TOGETHER)) {
      const moment = readMoment(at);
      found.push({ drop: null, at, by: 'bms', why: bmsReason(moment, system, false), moment });
    }
  return together(
    found.sort((a, b) => a.at - b.at),
    timeline,
    system.bank.capacityAh,
  );
}

/** Every time a load that ran stood still, with what was logged just before. */
function dropsOf(load: LoadCurrent, capacityAh: number, readMoment: (at: number) => Moment): Drop[] {
  const { time, amps, volts } = load;
  const running = amps.filter((one) => one > 2 * OFF.capacity * capacityAh);
  if (running.length < 10) return [];
  const off = Math.max(OFF.usual * median(running), OFF.capacity * capacityAh);
  const most = quantile(amps, 0.99);
  const step = medianStep(time);
  const limit = gapLimit(step);
  const found: Drop[] = [];
  for (let i = 1; i < time.length; i++) {
    if (!(amps[i]! <= off && amps[i - 1]! > off) || time[i]! - time[i - 1]! > limit) continue;
    let end = i;
    while (end < time.length && !(amps[end]! > off)) end++;
    // A sun that rises takes the loads over by and by, and soon charges.
    if (load.hidden && isTakenOver(load, i)) {
      i = end;
      continue;
    }
    let peak = 0;
    let loadVolts = NaN;
    for (let k = i - 1; k >= 0 && (i - k <= BEFORE.samples || time[i]! - time[k]! <= BEFORE.ms); k--) {
      if (time[i]! - time[k]! > Math.max(BEFORE.ms, BEFORE.samples * step)) break;
      if (amps[k]! > peak) peak = amps[k]!;
      if (volts && !(volts[k]! >= loadVolts)) loadVolts = volts[k]!;
    }
    const moment = readMoment(time[i]!);
    found.push({
      load,
      at: time[i]!,
      back: end < time.length ? time[end]! : NaN,
      amps: amps[i - 1]!,
      peak,
      most,
      loadVolts,
      moment,
    });
    i = end;
  }
  return found;
}

/** So long after a drop a source that nobody logged may not charge, and so far the current may not have sunk before. */
const TAKEN_OVER = { ms: 20 * MINUTE, from: 0.6 };

function isTakenOver({ time, amps }: LoadCurrent, at: number): boolean {
  const before = median(amps.subarray(Math.max(0, at - 6), at - 1));
  if (amps[at - 1]! < TAKEN_OVER.from * before) return true;
  for (let k = at; k < time.length && (k < at + 3 || time[k]! - time[at]! < TAKEN_OVER.ms); k++)
    if (amps[k]! !== amps[k]!) return true;
  return false;
}

/** What plainly cut a load, or null. */
function reasonOf(
  drop: Drop,
  system: KnownSystem,
  stops: readonly Refusal[] | null,
): { by: string; why: CutReason } | null {
  const { moment, load, at } = drop;
  const blocks = blocksInSeries(system.bank);
  const near = 2 * medianStep(load.time) + 1.5 * MINUTE;
  const cells =
    stops === null && moment.lowestV <= (system.bms?.cellLowV ?? CELL.usual - CELL.over) + CELL.over;
  const isStopped = (stops ?? []).some((one) => Math.abs(one.from - at) <= near);
  // A bus without voltage: whatever stood before it has let go.
  const isDead = moment.after < 0.4 * 12 * blocks;
  const surges = isSurge(drop, system);
  if (isStopped || isDead || cells) return { by: 'bms', why: bmsReason(moment, system, surges) };
  const own = loadOf(system, load);
  for (const { cutoffPercent } of own)
    if (cutoffPercent !== undefined && reaches(moment, cutoffPercent))
      return { by: idOf(load), why: 'percent' };
  const limitA = own.flatMap((one) => (one.surgeA === undefined ? [] : [one.surgeA]));
  if (surges && limitA.length > 0) return { by: idOf(load), why: 'surge' };
  const volts = drop.loadVolts === drop.loadVolts ? drop.loadVolts : moment.volts;
  const margin = (drop.loadVolts === drop.loadVolts ? NEAR.load : NEAR.battery) * blocks;
  const limits = own.flatMap((one) => (one.cutoffV === undefined ? [] : [one.cutoffV]));
  const low = (isLead(system.bank.chemistry) ? LOW.lead : LOW.lithium) * blocks;
  const limit = limits.length > 0 ? Math.max(...limits) + margin : low;
  if (volts <= limit) return { by: idOf(load), why: 'volts' };
  return surges ? { by: idOf(load), why: 'surge' } : null;
}

const loadOf = ({ loads }: KnownSystem, { id }: LoadCurrent): readonly Load[] =>
  id === null ? loads : loads.filter((one) => one.id === id);

const idOf = ({ id }: LoadCurrent): string => id ?? 'unknown';

/** The reading came down to a percentage, and stands there: it has not stood there for hours. */
const reaches = ({ shown, shownBefore }: Moment, percent: number): boolean =>
  shown <= percent + 0.8 && shown >= percent - 2.5 && (shownBefore !== shownBefore || shownBefore > shown);

function isSurge({ peak, most, load }: Drop, system: KnownSystem): boolean {
  const limits = loadOf(system, load).flatMap((one) => (one.surgeA === undefined ? [] : [one.surgeA]));
  if (limits.length > 0) return peak >= 0.85 * Math.min(...limits);
  return peak > START * most && peak > 0.1 * system.bank.capacityAh;
}

function bmsReason(
  { lowestV, volts, celsius }: Moment,
  { bms, bank }: KnownSystem,
  surges: boolean,
): CutReason {
  if (lowestV <= (bms?.cellLowV ?? CELL.usual - CELL.over) + CELL.over) return 'cell-low';
  if (celsius < (bms?.dischargeAboveC ?? -25)) return 'cold';
  if (surges) return 'surge';
  // Without cells a pack that was low is taken for one with a low cell.
  return lowestV !== lowestV && volts < 12.2 * blocksInSeries(bank) ? 'cell-low' : 'unknown';
}

/** Drops that nothing explains, but that came at one voltage or at one percentage again and again. */
function alike(open: readonly Drop[], system: KnownSystem, loads: readonly LoadCurrent[]): Found[] {
  const blocks = blocksInSeries(system.bank);
  return loads.flatMap((load): Found[] => {
    const drops = open.filter((one) => one.load === load);
    if (drops.length < 2) return [];
    const as = (some: readonly Drop[], why: CutReason): Found[] =>
      some.map((drop) => ({ drop, at: drop.at, by: idOf(load), why, moment: drop.moment }));
    const shown = drops.map((one) => one.moment.shown);
    const volts = drops.map(
      (one) => (one.loadVolts === one.loadVolts ? one.loadVolts : one.moment.volts) / blocks,
    );
    const percent = median(shown);
    const level = median(volts);
    const points = robustDeviation(shown);
    const spread = robustDeviation(volts);
    // A level that most stand at is no limit.
    const isLowest = median(drops.map((one) => one.moment.lowShare)) < SAME.lowest;
    const enough = drops.length >= SAME.fewest;
    // People set round figures.
    const isRound = Math.abs(percent - 5 * Math.round(percent / 5)) < 0.8;
    if (points <= SAME.points && percent < 90 && (enough ? !(spread < SAME.volts / 3) : isRound))
      return as(
        drops.filter((one) => Math.abs(one.moment.shown - percent) <= 2),
        'percent',
      );
    if (enough && spread <= SAME.volts && isLowest && level < (isLead(system.bank.chemistry) ? 12.6 : 12.8))
      return as(
        drops.filter((_, k) => Math.abs(volts[k]! - level) <= 3 * SAME.volts),
        'volts',
      );
    return [];
  });
}

/** Trips of one cutter close together as one, with what the battery came back to. */
function together(found: readonly Found[], timeline: Timeline, capacityAh: number): CutOff[] {
  const list: CutOff[] = [];
  for (const { drop, at, by, why, moment } of found) {
    const same = list.find((one) => one.by === by && at - one.last < TOGETHER);
    const back = drop?.back ?? NaN;
    if (same) {
      same.last = at;
      same.trips++;
      same.back = back;
      continue;
    }
    list.push({
      at,
      last: at,
      trips: 1,
      by,
      why,
      back,
      shown: moment.shown,
      held: moment.held,
      deviation: moment.deviation,
      volts: moment.volts,
      loadVolts: drop?.loadVolts ?? NaN,
      loadAmps: drop?.peak ?? NaN,
      amps: moment.amps,
      restVolts: NaN,
      lowestV: moment.lowestV,
      meanV: moment.meanV,
      lowestCell: moment.lowestCell,
      celsius: moment.celsius,
    });
  }
  for (const one of list) one.restVolts = restAfter(timeline, one, capacityAh);
  return list;
}

/** So long after, at the earliest and the latest; and what may flow meanwhile, parts of the capacity in A. */
const REST = { from: 5 * MINUTE, to: 2 * HOUR, calm: 0.01 };

/** The battery's voltage when it has recovered, before anything charges or draws again. */
function restAfter(timeline: Timeline, { last, back }: CutOff, capacityAh: number): number {
  const log = anyLogWith(timeline, 'battery_voltage');
  if (!log) return NaN;
  const { time, channels } = log;
  const volts = channels.battery_voltage!;
  const until = Math.min(back === back ? back : Infinity, last + REST.to);
  const from = firstAtOrAfter(time, last + REST.from);
  const battery = anyLogWith(timeline, 'battery_current');
  const amps = battery
    ? interpolateAt(
        battery.time,
        battery.channels.battery_current!,
        time.subarray(from, firstAtOrAfter(time, until)),
      )
    : null;
  let rest = NaN;
  for (let i = from; i < time.length && time[i]! < until; i++) {
    const flows = amps ? amps[i - from]! : 0;
    if (Math.abs(flows) > REST.calm * capacityAh) {
      if (flows > 0) break;
      continue;
    }
    if (volts[i]! > 6) rest = volts[i]!;
  }
  return rest;
}
