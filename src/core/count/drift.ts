/** How the reading parts from the truth between two syncs, split into what makes it: each part is what that error alone would do. */

import { HOUR, type Span } from '../quantity/span';
import { gapLimit, medianStep } from '../log/grid';
import { logOf, type Timeline } from '../log/timeline';
import { integrate } from '../log/grid';
import type { CounterLog } from './counterLog';
import { SYNC_BELOW } from './replay';
import { type Reference, referenceAt } from './reference';
import type { CounterSettings } from './settings';
import type { Wrong } from './trueCurrent';
import type { DriftInterval, DriftPart, Jump } from './types';

/** Shorter stretches say nothing, unless the reading moves by so many points in them. */
const LEAST = 6 * HOUR;
const MOVES = 10;
/** Hours of the rated current. */
const RATED_HOURS = 20;

export interface DriftInput {
  log: CounterLog;
  timeline: Timeline;
  /** What the device counts by, as far as it is known. */
  settings: CounterSettings;
  /** Of the bank; and of what the monitor sees, which is a half of it where it sits in one. */
  reference: Reference;
  seen: Reference;
  wrong: Wrong;
  syncs: readonly { at: number }[];
  jumps: readonly Jump[];
}

export function driftOf(input: DriftInput): DriftInterval[] {
  const { log, syncs, jumps } = input;
  const { time, reading } = log;
  if (!reading) return [];
  const ends = [
    ...syncs.map(({ at }) => ({ at, by: 'sync' as const })),
    ...jumps.map(({ at }) => ({ at, by: 'jump' as const })),
    { at: time[time.length - 1]! + 1, by: 'end' as const },
  ].sort((a, b) => a.at - b.at);
  const found: DriftInterval[] = [];
  let first = 0;
  for (const { at, by } of ends) {
    let last = first;
    while (last + 1 < time.length && time[last + 1]! < at) last++;
    const interval = intervalOf(input, first, last, by);
    if (interval) found.push(interval);
    first = Math.min(time.length - 1, last + 1);
  }
  return found;
}

function lowest(reading: Float32Array, first: number, last: number): number {
  let least = Infinity;
  for (let i = first; i <= last; i++) if (reading[i]! < least) least = reading[i]!;
  return least;
}

function intervalOf(
  { log, timeline, settings, reference, seen, wrong }: DriftInput,
  from: number,
  to: number,
  endedBy: DriftInterval['endedBy'],
): DriftInterval | null {
  const { time, amps } = log;
  const reading = log.reading!;
  // At full it stands: what counts begins where it leaves full for good.
  let first = from;
  for (let i = from; i <= to; i++) if (reading[i]! >= SYNC_BELOW) first = i;
  while (first < to && reading[first]! !== reading[first]!) first++;
  let last = to;
  while (last > first && reading[last]! !== reading[last]!) last--;
  const moved = Math.max(...[first, last].map((i) => reading[i]!)) - lowest(reading, first, last);
  if (time[last]! - time[first]! < LEAST && !(moved >= MOVES)) return null;
  const span: Span = { from: time[first]!, to: time[last]! };
  const start = referenceAt(reference, span.from);
  const end = referenceAt(reference, span.to);
  if (!(start.percent === start.percent && end.percent === end.percent)) return null;
  const limit = gapLimit(medianStep(time));
  const rated = settings.capacityAh / RATED_HOURS;
  let into = 0;
  let out = 0;
  let weighed = 0;
  let hours = 0;
  for (let i = first + 1; i <= last; i++) {
    const ms = time[i]! - time[i - 1]!;
    const middle = (amps[i]! + amps[i - 1]!) / 2;
    if (ms > limit || middle !== middle) continue;
    hours += ms / HOUR;
    if (middle > 0) into += (middle * ms) / HOUR;
    else {
      const faster = -middle / rated;
      const weight =
        faster > 1 || settings.peukertBelowRate ? Math.max(faster, 0.01) ** (settings.peukert - 1) : 1;
      out -= (middle * ms) / HOUR;
      weighed -= (weight * middle * ms) / HOUR;
    }
  }
  const c = reference.capacityAh.value;
  const efficiency = settings.efficiencyPercent / 100;
  const counted = efficiency * into - weighed;
  const bypassed = wrong.unseen.reduce((sum, { id, kind }) => {
    const channel = kind === 'source' ? 'source_current' : 'load_current';
    const device = logOf(timeline, id, channel);
    if (!device) return sum;
    const through = integrate(device.time, device.channels[channel]!, span);
    return sum + (kind === 'source' ? 1 : -1) * (through.in - through.out);
  }, 0);
  const points = (ampHours: number) => (100 * ampHours) / c;
  const parts: Record<DriftPart, number> = {
    efficiency: points((efficiency - reference.efficiencyPercent.value / 100) * into),
    capacity: (100 * counted) / settings.capacityAh - points(counted),
    peukert: -points(weighed - out),
    offset: wrong.gain === 1 ? points(reference.offsetA.value * hours) : 0,
    scale: points((into - out) * (1 - 1 / wrong.gain)),
    uncounted: -points(bypassed),
    otherHalf:
      referenceAt(seen, span.to).percent -
      referenceAt(seen, span.from).percent -
      (end.percent - start.percent),
    unexplained: 0,
  };
  const drift = reading[last]! - reading[first]! - (end.percent - start.percent);
  parts.unexplained = drift - Object.values(parts).reduce((a, b) => a + b, 0);
  return {
    ...span,
    endedBy,
    ampHoursIn: into,
    ampHoursOut: out,
    readingFrom: reading[first]!,
    readingTo: reading[last]!,
    trueFrom: start.percent,
    trueTo: end.percent,
    deviation: Math.hypot(start.deviation, end.deviation),
    drift,
    parts,
  };
}
