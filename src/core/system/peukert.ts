/** Peukert's law (W. Peukert, Elektrotechnische Zeitschrift 20, 1897): the faster the discharge, the less comes out. */

import type { Chemistry } from './schema';

/** What is usual where nobody has set or measured it (common practice, no source). */
const USUAL = { lead: 1.25, lithium: 1.05 };
export const usualExponent = (chemistry: Chemistry): number =>
  chemistry === 'lfp' ? USUAL.lithium : USUAL.lead;

export interface RatedCapacity {
  capacityAh: number;
  /** Hour rate at which the capacity holds, usually 20. */
  hours: number;
}

/**
 * Hours that a constant current lasts: t = H·(C/(I·H))^k.
 * @param amps discharge current, positive. @param exponent Peukert's k, 1 or more.
 */
export function dischargeHours({ capacityAh, hours }: RatedCapacity, amps: number, exponent: number): number {
  return hours * (capacityAh / (amps * hours)) ** exponent;
}

/** Ampere-hours that come out at a constant current. */
export function usableCapacity(rated: RatedCapacity, amps: number, exponent: number): number {
  return dischargeHours(rated, amps, exponent) * amps;
}

/** The capacity at another hour rate: the current that lasts those hours, times the hours. */
export function capacityAtRate(
  { capacityAh, hours }: RatedCapacity,
  atHours: number,
  exponent: number,
): number {
  const amps = (capacityAh / hours) * (hours / atHours) ** (1 / exponent);
  return amps * atHours;
}
