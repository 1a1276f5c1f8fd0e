/** Every time a load's current falls to nothing, with what was logged just before: cut off, switched off or done. */

import { firstAtOrAfter, gapLimit, medianStep } from '../log/grid';
import { isNumber, median, quantile } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import type { LoadCurrent } from './loadCurrents';
import type { Moment } from './moment';

/** What draws less than this is off: parts of what it usually draws, and of the capacity in A, and times the meter's noise. */
const OFF = { usual: 0.15, capacity: 0.0015, noise: 4 };
/** What happened just before: so long, or so many samples. */
const BEFORE = { ms: 3 * MINUTE, samples: 3 };
/** A drop of a load's current to nothing. */
export interface Drop {
  load: LoadCurrent;
  at: number;
  back: number;
  /** A just before, and at most in that time. */
  amps: number;
  peak: number;
  /** How long it had drawn at least half of that, ms, and whether the log shows when that began. */
  ranMs: number;
  beginSeen: boolean;
  /** What it hardly ever draws more than, A. */
  most: number;
  /** V at the load's terminals at least, NaN where not logged. */
  loadVolts: number;
  /** What was drawn before the run goes on after it, or is gone with it. */
  goesOn: boolean;
  takesAll: boolean;
  /** By so much the current fell, A. */
  fell: number;
  moment: Moment;
}

/** Runs of about one current are compared: within this part of it. */
const ONE_CURRENT = 0.25;
export const isOfCurrent = (one: Drop, amps: number): boolean => Math.abs(one.amps / amps - 1) <= ONE_CURRENT;

/** Volts that it ended at: its own where they were logged, else the battery's. */
export const endVolts = ({ loadVolts, moment }: Drop): number =>
  loadVolts === loadVolts ? loadVolts : moment.volts;

/**
 * Every time a load that ran stood still, with what was logged just before.
 * @param leastPart what lets go while others draw on draws so much at least, parts of the capacity in A
 */
export function dropsOf(
  load: LoadCurrent,
  capacityAh: number,
  readMoment: (at: number) => Moment,
  leastPart = LEAST_PART,
): Drop[] {
  const { time, amps, volts } = load;
  const running = amps.filter((one) => one > 2 * OFF.capacity * capacityAh);
  if (running.length < 10) return [];
  const noise = noiseOf(load);
  const off = Math.max(OFF.usual * median(running), OFF.capacity * capacityAh, OFF.noise * noise);
  // What only trembles about nothing has never run.
  const on = off + OFF.noise * noise;
  const most = quantile(amps, 0.99);
  const step = medianStep(time);
  const limit = gapLimit(step);
  const found: Drop[] = [];
  const dropAt = (ran: number, i: number, end: number, rest: Rest): Drop => {
    let peak = 0;
    let loadVolts = NaN;
    for (let k = i - 1; k >= 0 && (i - k <= BEFORE.samples || time[i]! - time[k]! <= BEFORE.ms); k--) {
      if (time[i]! - time[k]! > Math.max(BEFORE.ms, BEFORE.samples * step)) break;
      if (amps[k]! > peak) peak = amps[k]!;
      if (volts && !(volts[k]! >= loadVolts)) loadVolts = volts[k]!;
    }
    const began = startOfRun(load, ran);
    return {
      load,
      at: time[i]!,
      back: end < time.length ? time[end]! : NaN,
      amps: amps[ran]!,
      peak,
      ranMs: time[i]! - time[began]!,
      beginSeen: isBeginSeen(load, began),
      most,
      loadVolts,
      goesOn: rest === 'goes on',
      takesAll: rest === 'gone',
      fell: amps[ran]! - (amps[i]! || 0),
      moment: readMoment(time[i]!),
    };
  };
  let last = -1;
  for (let i = 0; i < time.length; i++) {
    if (amps[i]! > on) last = i;
    if (last < 0) continue;
    const isNext = i > 0 && time[i]! - time[i - 1]! <= limit;
    const isBeyond = isNext && jumps(load, i, LEAST_PART * capacityAh);
    // With something charging the battery it is not known what is left.
    const lets = isBeyond && amps[i]! !== amps[i]!;
    if (!(amps[i]! <= off) && !lets) {
      // One load of several that lets go leaves what the others draw.
      if (isNext && fallsByHalf(amps, i, leastPart * capacityAh) && !isBetween(amps, i)) {
        const level = amps[i - 1]! / 2;
        let end = i;
        while (end < time.length && !(amps[end]! > level)) end++;
        found.push(dropAt(lastWhole(amps, i - 1), i, end, 'goes on'));
      }
      continue;
    }
    const ran = lastWhole(amps, last);
    const fades = i - last;
    last = -1;
    if (!isNext || fades > FADES) continue;
    let end = i;
    while (end < time.length && !(amps[end]! > on)) end++;
    if (isCarried(load, ran, i)) {
      i = end - 1;
      continue;
    }
    // A sun that rises takes the loads over by and by, and soon charges.
    if (isBeyond || !(load.hidden && isTakenOver(load, i))) {
      const rest = restOf(load, startOfRun(load, ran), i, noise);
      // A source that nobody logged may carry the rest of them.
      found.push(dropAt(ran, i, end, load.hidden && rest === 'gone' ? 'none' : rest));
    }
    i = end - 1;
  }
  return found;
}

/** A mean over the sample in which a load let go stands between what it drew, under this part of it, and nothing. */
const HALFWAY = 0.8;

/** Less of it than this is what others draw. */
const HARDLY = 0.1;
const isBetween = (amps: Float32Array, i: number): boolean =>
  amps[i]! > HARDLY * amps[i - 1]! && amps[i + 1]! < amps[i]! / 2;

/** The last sample of a run in which it drew all that it draws. */
function lastWhole(amps: Float32Array, last: number): number {
  const isHalfway =
    last > 1 &&
    amps[last]! < HALFWAY * amps[last - 1]! &&
    Math.abs(amps[last - 2]! / amps[last - 1]! - 1) < 1 - HALFWAY;
  return isHalfway ? last - 1 : last;
}

/** What lets go alone draws so much at least, parts of the capacity in A, and so many samples stay low. */
export const LEAST_PART = 0.03;
const STAYS = 3;

/** Whether a current falls to less than half by so many amperes at the least, and stays there. */
function fallsByHalf(amps: Float32Array, i: number, least: number): boolean {
  const before = amps[i - 1]!;
  if (!(before - amps[i]! >= least)) return false;
  for (let k = i; k < Math.min(amps.length, i + STAYS); k++) if (!(amps[k]! < before / 2)) return false;
  return true;
}

/** A current that takes longer than so many samples to fall is not cut. */
const FADES = 3;
/** Samples before a run and after it that say what is drawn without it, and how far they may differ, parts. */
const WITHOUT = { samples: 10, differs: 0.25, noise: 3 };

/** What was drawn before a run, where the log shows it: it goes on after it (the run has ended, or one load of several was cut), or is gone. */
type Rest = 'goes on' | 'gone' | 'none';

function restOf({ amps }: LoadCurrent, start: number, end: number, noise: number): Rest {
  const before = median(amps.subarray(Math.max(0, start - WITHOUT.samples), start));
  const after = median(amps.subarray(end, end + WITHOUT.samples));
  const least = WITHOUT.noise * noise;
  if (start === 0) return after > least ? 'goes on' : 'none';
  if (!(before > least)) return 'none';
  if (after <= least && before > 2 * least) return 'gone';
  return after > least && Math.abs(after - before) <= Math.max(2 * noise, WITHOUT.differs * before)
    ? 'goes on'
    : 'none';
}

/**
 * The smaller steps of a current are its meter's noise and no load: so many of them, and how many deviations they then reach where the noise
 * is a normal one. A log written too seldom shows the load's own wandering in most of its steps.
 */
const QUIET = { part: 0.5, deviations: 0.95 };
const QUIET_COARSE = { part: 0.2, deviations: 0.36 };
const COARSE = 2.5 * MINUTE;
/** What a meter rounds by shows as noise of this part of it at the least. */
const ROUNDED = 0.6;
const TREMBLES = 0.1;

/** Noise of its meter, A, one standard deviation. */
function noiseOf({ time, amps }: LoadCurrent): number {
  const stride = Math.max(1, Math.floor(time.length / 20_000));
  const steps: number[] = [];
  for (let i = 1; i < amps.length; i += stride) {
    const step = Math.abs(amps[i]! - amps[i - 1]!);
    if (step === step) steps.push(step);
  }
  const { part, deviations } = medianStep(time) > COARSE ? QUIET_COARSE : QUIET;
  const moved = steps.filter((one) => one > 0);
  // A current that mostly stands still is not noisy: its steps are the load's own.
  const quantum = moved.length > TREMBLES * steps.length ? quantile(moved, 0.01) : 0;
  return Math.max(quantile(steps, part) / deviations || 0, ROUNDED * quantum);
}

/** The first sample of the run that ends with a sample: half of what it draws then is no pause. */
function startOfRun({ time, amps }: LoadCurrent, last: number): number {
  const half = amps[last]! / 2;
  const limit = gapLimit(medianStep(time));
  let first = last;
  for (let k = last - 1; k >= 0 && time[first]! - time[k]! <= limit; k--) {
    if (amps[k]! <= half) break;
    if (amps[k]! > half) first = k;
  }
  return first;
}

/** Whether the log shows what was drawn just before a run: it does not where it begins with it, or after a hole. */
function isBeginSeen({ time, amps }: LoadCurrent, first: number): boolean {
  const limit = gapLimit(medianStep(time));
  let k = first - 1;
  while (k >= 0 && amps[k]! !== amps[k]!) k--;
  return k >= 0 && time[first]! - time[k]! <= limit;
}

/** A source that begins to give by this part of what was drawn. */
const BEGINS = 0.5;

/** A load that is told by what sources and battery give vanishes where a source begins and a meter is wrong. */
function isCarried({ amps, given }: LoadCurrent, ran: number, at: number): boolean {
  const before = given?.[ran];
  const after = Math.max(given?.[at] ?? NaN, given?.[at + 1] ?? NaN);
  return before !== undefined && after - before > BEGINS * amps[ran]!;
}

/** A current that jumps by so many times what the sources without a log can give lost a load. */
const BEYOND = 1.3;

/** Whether what the battery and the sources with a log give together falls at once by more than the others can give: a load let go. */
function jumps({ hidden, given }: LoadCurrent, at: number, least: number): boolean {
  if (!hidden || !given) return false;
  const together = (k: number) => given[k]! - hidden.into[k]!;
  // A mean over the sample in which it let go stands halfway, and a source's own log may show it a row later.
  const beside = (k: number, otherwise: number) => (isNumber(together(k)) ? together(k) : otherwise);
  const before = Math.max(together(at - 1), beside(at - 2, -Infinity));
  const after = Math.min(together(at), beside(at + 1, Infinity));
  return before - after > Math.max(least, BEYOND * hidden.mostA);
}

/** So long after a drop a source that nobody logged may not charge, and so far the current may not have sunk before. */
const TAKEN_OVER = { ms: 20 * MINUTE, from: 0.6 };
/**
 * A current that took longer than so many samples, and so long, to sink from nearly what it was in the last half hour: a source may take
 * longer too.
 */
const SINKS = { samples: 2, ms: 3 * MINUTE, nearly: 0.85, over: 30 * MINUTE, taken: 60 * MINUTE };

function isTakenOver({ time, amps }: LoadCurrent, at: number): boolean {
  const before = median(amps.subarray(Math.max(0, at - 6), at - 1));
  // Just before, something charged the battery: it carries the loads now.
  if (amps[at - 1]! !== amps[at - 1]! || amps[at - 1]! < TAKEN_OVER.from * before) return true;
  const within = sinksSlowly(time, amps, at) ? SINKS.taken : TAKEN_OVER.ms;
  for (let k = at; k < time.length && (k < at + 3 || time[k]! - time[at]! < within); k++)
    if (amps[k]! !== amps[k]!) return true;
  return false;
}

function sinksSlowly(time: Float64Array, amps: Float32Array, at: number): boolean {
  const from = firstAtOrAfter(time, time[at]! - SINKS.over);
  const was = SINKS.nearly * median(amps.subarray(from, at));
  let full = at - 1;
  while (full > from && !(amps[full]! >= was)) full--;
  return at - full > SINKS.samples && time[at]! - time[full]! > SINKS.ms;
}
