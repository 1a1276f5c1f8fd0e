/** Specific gravity of the acid: to a common temperature, and what it says of the cell. */

import { interpolate } from '../quantity/numbers';

/** IEEE Std 450, from memory: reference 25 °C, 0.001 for each 1.67 °C (3 °F). BCI, from memory: reference 80 °F, 0.004 for each 10 °F. */
export const GRAVITY_SCHOOLS = {
  ieee: { referenceC: 25, perC: 0.001 / 1.67 },
  bci: { referenceC: (80 - 32) / 1.8, perC: 0.004 / (10 / 1.8) },
} as const;

/** The reading at the school's reference temperature: added above it, taken off below. */
export function gravityAtReference(
  reading: number,
  celsius: number,
  school: keyof typeof GRAVITY_SCHOOLS,
): number {
  const { referenceC, perC } = GRAVITY_SCHOOLS[school];
  return reading + perC * (celsius - referenceC);
}

/** [specific gravity at 25 °C, state of charge %]. Battery Council International, from memory. */
export const GRAVITY_PERCENT: ReadonlyArray<readonly [number, number]> = [
  [1.12, 0],
  [1.155, 25],
  [1.19, 50],
  [1.225, 75],
  [1.265, 100],
];

/** State of charge, %, of a flooded cell; the ends are held. */
export const percentOfGravity = (gravity: number): number => interpolate(GRAVITY_PERCENT, gravity);

/** Rest voltage of a lead-acid cell at 25 °C from its acid: V ≈ specific gravity + 0.84 (Linden & Reddy, Handbook of Batteries, from memory). */
export const restVoltsOfGravity = (gravity: number): number => gravity + 0.84;
