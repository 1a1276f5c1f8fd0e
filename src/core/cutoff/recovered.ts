/** The voltage to which a battery comes back when its load has gone. */

import { interpolateAt } from '../log/interpolateAt';
import { firstAtOrAfter } from '../log/grid';
import { anyLogWith, type Timeline } from '../log/timeline';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { HOUR, MINUTE } from '../quantity/span';
import type { CutOff } from './types';

/** So long after, at the earliest and the latest; and what may flow meanwhile, parts of the capacity in A. */
const REST = { from: 5 * MINUTE, to: 2 * HOUR, calm: 0.01 };

/** V a block above which no battery rests: a charger holds it there, or it has just been charged (common practice, no source). */
const HELD = { lead: 13, lithium: 13.65 };

/** The battery's voltage when it has recovered, before anything charges or draws again; NaN where a charger holds it. */
export function restAfter(
  timeline: Timeline,
  { last, back }: Pick<CutOff, 'last' | 'back'>,
  bank: KnownBank,
): number {
  const { capacityAh } = bank;
  const held = (isLead(bank.chemistry) ? HELD.lead : HELD.lithium) * blocksInSeries(bank);
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
    if (volts[i]! > held) break;
    if (volts[i]! > 6) rest = volts[i]!;
  }
  return rest;
}
