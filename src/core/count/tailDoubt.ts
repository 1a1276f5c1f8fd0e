/** How full a battery is at its tail: one is fuller than another, and no number of its charges tells by how much. */

import { isNumber } from '../quantity/numbers';
import { isLead } from '../system/chemistry';
import type { Chemistry } from '../system/schema';

/**
 * Parts of the capacity, one standard deviation: lead differs more where its temperature, and with it the voltage that it asks for, is not
 * known (common practice, no source).
 */
const DOUBT = { lead: 0.02, anyHeat: 0.025, lithium: 0.01 };

/**
 * Cold lead takes less at its tail, unless its voltage is raised, and each Ah drawn is more of what it can give: what that comes to is open, by
 * parts of the capacity for each °C below (common practice, no source).
 */
const COLD = { below: 15, each: 0.002 };

/**
 * @param celsius of the battery as a rule; NaN where nobody logged it
 * @returns parts of the capacity, one standard deviation
 */
export function tailDoubt(chemistry: Chemistry, celsius: number): number {
  if (!isLead(chemistry)) return DOUBT.lithium;
  if (!isNumber(celsius)) return DOUBT.anyHeat;
  return Math.hypot(DOUBT.lead, COLD.each * Math.max(0, COLD.below - celsius));
}
