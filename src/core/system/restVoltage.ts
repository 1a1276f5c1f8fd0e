/** Open-circuit voltage of a rested battery against its state of charge. */

import { interpolate } from '../quantity/numbers';

/**
 * 12 V lead-acid, rested, about 25 °C: [V per 12 V block, %]. Battery Council International, from memory.
 */
export const LEAD_REST_VOLTS: ReadonlyArray<readonly [number, number]> = [
  [11.89, 0],
  [12.06, 25],
  [12.24, 50],
  [12.45, 75],
  [12.65, 100],
];

/** State of charge, %, of a rested lead-acid battery. @param voltsPerBlock V per 12 V block (6 cells). Ends are held. */
export function leadRestPercent(voltsPerBlock: number): number {
  return interpolate(LEAD_REST_VOLTS, voltsPerBlock);
}
