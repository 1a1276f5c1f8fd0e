/** Steps of a current: it stood, it moved within a sample, and it stays. */

import { MINUTE } from '../quantity/span';

/** Samples further apart than this show more than the resistance. */
export const APART = 2.5 * MINUTE;
const STANDS = 0.3;
const MOST = 20_000;

/**
 * Indices of the samples after each step while the battery gives: what charges it moves the voltage by more than its resistance.
 * @param amps into the battery, A. @param least A that a step has
 */
export function drawnSteps(time: Float64Array, amps: ArrayLike<number>, least: number): number[] {
  const found: number[] = [];
  for (let i = 2; i + 1 < amps.length && found.length < MOST; i++) {
    const step = amps[i]! - amps[i - 1]!;
    if (!(Math.abs(step) >= least) || time[i]! - time[i - 1]! > APART) continue;
    if (!(amps[i]! < 0 && amps[i - 1]! < 0)) continue;
    if (Math.abs(amps[i - 1]! - amps[i - 2]!) > STANDS * Math.abs(step)) continue;
    if (Math.abs(amps[i + 1]! - amps[i]!) > STANDS * Math.abs(step)) continue;
    found.push(i);
  }
  return found;
}
