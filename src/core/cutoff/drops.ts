/** Every time a load's current falls to nothing, with what was logged just before: cut off, switched off or done. */

import { gapLimit, medianStep } from '../log/grid';
import { median, quantile } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import type { LoadCurrent } from './loadCurrents';
import type { Moment } from './moment';

/** What draws less than this is off: parts of what it usually draws, and of the capacity in A. */
const OFF = { usual: 0.15, capacity: 0.0015 };
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
  /** How long it had drawn at least half of that, ms. */
  ranMs: number;
  /** What it hardly ever draws more than, A. */
  most: number;
  /** V at the load's terminals at least, NaN where not logged. */
  loadVolts: number;
  moment: Moment;
}

/** Every time a load that ran stood still, with what was logged just before. */
export function dropsOf(load: LoadCurrent, capacityAh: number, readMoment: (at: number) => Moment): Drop[] {
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
      ranMs: time[i]! - time[startOfRun(load, i - 1)]!,
      most,
      loadVolts,
      moment,
    });
    i = end;
  }
  return found;
}

/** The first sample of the run that ends with a sample: half of what it draws then is no pause. */
function startOfRun({ time, amps }: LoadCurrent, last: number): number {
  const half = amps[last]! / 2;
  const limit = gapLimit(medianStep(time));
  let first = last;
  while (first > 0 && amps[first - 1]! > half && time[first]! - time[first - 1]! <= limit) first--;
  return first;
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
