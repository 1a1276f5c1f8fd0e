/** The voltage to which a battery comes back when its load has gone. */

import { interpolateAt } from '../log/interpolateAt';
import { firstAtOrAfter } from '../log/grid';
import { anyLogWith, type Timeline } from '../log/timeline';
import { HOUR, MINUTE } from '../quantity/span';
import type { CutOff } from './types';

/** So long after, at the earliest and the latest; and what may flow meanwhile, parts of the capacity in A. */
const REST = { from: 5 * MINUTE, to: 2 * HOUR, calm: 0.01 };

/** The battery's voltage when it has recovered, before anything charges or draws again. */
export function restAfter(
  timeline: Timeline,
  { last, back }: Pick<CutOff, 'last' | 'back'>,
  capacityAh: number,
): number {
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
