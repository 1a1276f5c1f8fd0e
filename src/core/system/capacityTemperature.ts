/** How the capacity of a lead-acid battery falls in the cold. */

import { interpolate } from '../quantity/numbers';

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

/** Share of the 25 °C capacity that a lead-acid battery gives at a temperature; held beyond the ends of the table. */
export function leadCapacityShare(celsius: number): number {
  return 1 / interpolate(CELL_SIZE_FACTORS, celsius);
}
