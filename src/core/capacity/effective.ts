/** What a discharge comes to at the rated current and at 25 °C, so that it can be held against the rating. */

import { HOUR } from '../quantity/span';
import { isLead } from '../system/chemistry';
import type { RatedCapacity } from '../system/peukert';
import type { Bank } from '../system/schema';

/** Hours over which the capacity holds, where nobody wrote them down: lead is rated at 20 h, lithium at 5 h (common practice, no source). */
const USUAL_HOURS = { lead: 20, lithium: 5 };

export const ratingOf = ({
  chemistry,
  capacityAh,
  capacityHours,
}: Required<Pick<Bank, 'chemistry' | 'capacityAh'>> & Pick<Bank, 'capacityHours'>): RatedCapacity => ({
  capacityAh,
  hours: capacityHours ?? (isLead(chemistry) ? USUAL_HOURS.lead : USUAL_HOURS.lithium),
});

/**
 * Ah at the hour rate of the rating: each hour counts (I / I_rated)^(k − 1) times above the rated current (Peukert). For a steady current
 * this is IEEE Std 450's time-adjusted method with Peukert's time for the rated one.
 * @param amps drawn, A, positive. @param hours for so long
 */
export function effectiveAh(amps: number, hours: number, rated: RatedCapacity, exponent: number): number {
  if (!(amps > 0)) return 0;
  const ratio = amps / (rated.capacityAh / rated.hours);
  return amps * hours * (ratio > 1 ? ratio ** (exponent - 1) : 1);
}

/** Temperature that is taken where none was read: a cool room's, °C. */
export const ROOM = 20;
/** One standard deviation of what a discharge says, parts of it: clip-on meter, state at the start, temperature not read. */
export const DOUBT = { meter: 0.02, full: 0.02, room: 0.04 };

/** What flowed out over a discharge. */
export interface Drawn {
  hours: number;
  /** Net of what went in meanwhile. */
  ampHours: number;
  wattHours: number;
  /** At the rated current. */
  effectiveAh: number;
  /** Mean while it was drawn on, A. */
  amps: number;
}

/**
 * By the trapezoid rule; steps longer than `gap` add nothing.
 * @param amps into the battery, A. @param volts NaN or null where not known
 */
export function drawnOver(
  time: ArrayLike<number>,
  amps: ArrayLike<number>,
  volts: ArrayLike<number> | null,
  { from, to }: { from: number; to: number },
  { gap, rated, exponent }: { gap: number; rated: RatedCapacity; exponent: number },
): Drawn {
  const total: Drawn = { hours: 0, ampHours: 0, wattHours: 0, effectiveAh: 0, amps: NaN };
  let drawnHours = 0;
  let drawnAh = 0;
  for (let i = from + 1; i <= to; i++) {
    const step = time[i]! - time[i - 1]!;
    const current = -(amps[i]! + amps[i - 1]!) / 2;
    if (step > gap || current !== current) continue;
    const hours = step / HOUR;
    total.hours += hours;
    total.ampHours += current * hours;
    total.effectiveAh += current > 0 ? effectiveAh(current, hours, rated, exponent) : current * hours;
    const pressure = volts ? (volts[i]! + volts[i - 1]!) / 2 : NaN;
    if (pressure === pressure) total.wattHours += current * pressure * hours;
    if (current <= 0) continue;
    drawnHours += hours;
    drawnAh += current * hours;
  }
  total.amps = drawnAh / drawnHours;
  return total;
}
