/** A capacity test: how it is run on this bank, and what its time comes to. */

import { capacityShare } from '../system/capacityTemperature';
import { isLead } from '../system/chemistry';
import { dischargeHours } from '../system/peukert';
import type { Chemistry } from '../system/schema';

/** A battery that gives less than this of its rating is at its end, % (IEEE Std 450, from memory). */
export const END_OF_LIFE = 80;

/** V a cell at which the test ends: lead common practice, lithium above what its BMS stops at (both no source). */
export const END_VOLTS = { lead: 1.75, lithium: 2.6 };
/** V a cell at which one weak cell ends it before. */
export const REVERSING = { lead: 1.5, lithium: 2.5 };

export interface CapacityTestInput {
  chemistry: Chemistry;
  cells: number;
  capacityAh: number;
  /** Hour rate at which that capacity holds. */
  hours: number;
  /** Steady load, A. */
  amps: number;
  celsius: number;
  exponent: number;
}

export interface CapacityTestPlan {
  /** V of the bank, and of one cell that ends it earlier. */
  endVolts: number;
  lowestCellVolts: number;
  /** Hours that a battery in good order lasts at this load and 25 °C, and at its temperature now. */
  ratedHours: number;
  expectedHours: number;
  /** Share of the time at 25 °C that it lasts at this temperature. */
  share: number;
}

export function planCapacityTest({
  chemistry,
  cells,
  capacityAh,
  hours,
  amps,
  celsius,
  exponent,
}: CapacityTestInput): CapacityTestPlan {
  const kind = isLead(chemistry) ? 'lead' : 'lithium';
  const ratedHours = dischargeHours({ capacityAh, hours }, amps, exponent);
  const share = capacityShare(chemistry, celsius);
  return {
    endVolts: END_VOLTS[kind] * cells,
    lowestCellVolts: REVERSING[kind],
    ratedHours,
    expectedHours: ratedHours * share,
    share,
  };
}

/** Per cent of the rating at 25 °C: 100 · time / (rated time · temperature factor) (IEEE Std 450, time-adjusted method, from memory). */
export const capacityPercent = (plan: CapacityTestPlan, actualHours: number): number =>
  (100 * actualHours) / (plan.ratedHours * plan.share);
