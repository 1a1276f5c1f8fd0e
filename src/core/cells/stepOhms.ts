/** Resistance of each cell with its joints, by steps of the current that the same device logged. */

import { APART, drawnSteps } from '../cutoff/steps';
import { medianStep } from '../log/grid';
import { mean } from '../quantity/numbers';
import type { CellLog } from './cellLog';

export interface CellOhms {
  /** Ω and one standard deviation, a value a cell. */
  ohms: number[];
  errors: number[];
  steps: number;
}

/** Steps of at least this part of the capacity, A, and so many of them. */
const STEP = { least: 0.02, fewest: 12 };

/** Null where current and cells were not logged on one clock, too seldom, or hardly ever stepped. */
export function stepOhms(
  { time, volts, amps, ampsOnItsClock }: CellLog,
  capacityAh: number,
): CellOhms | null {
  if (!amps || !ampsOnItsClock || medianStep(time) > APART) return null;
  const steps = drawnSteps(time, amps, STEP.least * capacityAh);
  if (steps.length < STEP.fewest) return null;
  const found = volts.map((column) => ofCell(column, amps, steps));
  return {
    ohms: found.map((one) => one.ohms),
    errors: found.map((one) => one.error),
    steps: steps.length,
  };
}

/** By least squares through nothing: coarse meters show most steps as none and some as too large. */
function ofCell(volts: Float32Array, amps: Float32Array, steps: readonly number[]) {
  let xy = 0;
  let xx = 0;
  for (const i of steps) {
    const step = amps[i]! - amps[i - 1]!;
    const moved = volts[i]! - volts[i - 1]!;
    if (moved !== moved) continue;
    xy += step * moved;
    xx += step * step;
  }
  const ohms = xy / xx;
  const left = steps.map((i) => {
    const off = volts[i]! - volts[i - 1]! - ohms * (amps[i]! - amps[i - 1]!);
    return off === off ? off * off : 0;
  });
  return { ohms, error: Math.sqrt(mean(left) / xx) };
}
