/** How the capacity of a battery falls in the cold. */

import { interpolate } from '../quantity/numbers';
import { isLead } from './chemistry';
import type { Chemistry } from './schema';

/**
 * Cell-size correction factors, [°C, factor], 1.215 nominal gravity. IEEE Std 485, from memory. A battery at 0 °C gives about
 * 1/1.35 of its capacity at 25 °C.
 */
export const CELL_SIZE_FACTORS: ReadonlyArray<readonly [number, number]> = [
  [-3.9, 1.52],
  [4.4, 1.3],
  [10, 1.19],
  [15.6, 1.11],
  [20, 1.056],
  [25, 1],
  [29.4, 0.96],
  [35, 0.93],
  [40.6, 0.89],
];

/** Share of its 25 °C capacity that lithium iron phosphate gives, [°C, share] (common practice, no source). */
const LITHIUM_SHARES: ReadonlyArray<readonly [number, number]> = [
  [-20, 0.65],
  [-10, 0.8],
  [0, 0.9],
  [10, 0.95],
  [25, 1],
];

/** Share of the 25 °C capacity that a lead-acid battery gives at a temperature; held beyond the ends of the table. */
export function leadCapacityShare(celsius: number): number {
  return 1 / interpolate(CELL_SIZE_FACTORS, celsius);
}

/** Share of the 25 °C capacity at a temperature; held beyond the ends of the tables. */
export const capacityShare = (chemistry: Chemistry, celsius: number): number =>
  isLead(chemistry) ? leadCapacityShare(celsius) : interpolate(LITHIUM_SHARES, celsius);
