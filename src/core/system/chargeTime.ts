/**
 * How long a charge takes, before any log. Common practice, no source: at a fifth of its capacity an hour, bulk brings a lead battery
 * to about 80 to 85 %; a weaker charger brings it further. In absorption the current falls like I₀·e^(−t/τ), so that what is
 * missing fixes τ: missing = τ·(I₀ − I_tail).
 */

import type { Range } from './chemistry';

/** Share of capacity still missing when bulk ends, lead-acid. @param rate charge current as a share of capacity */
export function missingAfterBulk(rate: number): Range {
  const middle = Math.min(0.3, 0.055 + 0.6 * rate);
  return { min: middle - 0.025, max: middle + 0.025 };
}

/**
 * Hours from the end of bulk until the current has fallen to the tail.
 * @param missingAh Ah that are still to go in @param amps at the end of bulk, above the tail
 * @returns 0 when the current is at the tail already
 */
export function hoursToTail(missingAh: number, amps: number, tailAmps: number): number {
  if (amps <= tailAmps) return 0;
  const tau = missingAh / (amps - tailAmps);
  return tau * Math.log(amps / tailAmps);
}

/** Hours of absorption that a lead battery needs, from hopeful to careful. */
export function absorptionHours(capacityAh: number, amps: number, tailAmps: number): Range {
  const { min, max } = missingAfterBulk(amps / capacityAh);
  return {
    min: hoursToTail(min * capacityAh, amps, tailAmps),
    max: hoursToTail(max * capacityAh, amps, tailAmps),
  };
}

export interface ChargeTime {
  bulkHours: number;
  absorptionHours: number;
}

/**
 * Hours to full at a steady current. @param fromPercent where it starts @param efficiency share of the charge that stays, 0 to 1
 * @param tailAmps where absorption ends; for lithium, which needs none, give null.
 */
export function chargeTime(
  capacityAh: number,
  amps: number,
  fromPercent: number,
  efficiency: number,
  tailAmps: number | null,
): ChargeTime {
  const missing = (capacityAh * (100 - fromPercent)) / 100;
  if (tailAmps === null) return { bulkHours: missing / (amps * efficiency), absorptionHours: 0 };
  const { min, max } = missingAfterBulk(amps / capacityAh);
  const late = Math.min(missing, ((min + max) / 2) * capacityAh);
  return {
    bulkHours: (missing - late) / (amps * efficiency),
    absorptionHours: hoursToTail(late / efficiency, amps, tailAmps),
  };
}
