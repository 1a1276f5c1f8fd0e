/**
 * The true state of charge with its band: what went in and out between the moments at which it is known, forward and backward, with the
 * battery's capacity, efficiency and the meter's zero error as unknowns that the same anchors settle.
 */

import { clamp } from '../quantity/numbers';
import { cellOf, cellStart, type Grid } from '../log/grid';
import { isLead } from '../system/chemistry';
import type { Anchor } from './anchors';
import {
  deviationOf,
  type Guess,
  guessesOf,
  heldBy,
  meanCourse,
  meanOfGuesses,
  type Valued,
} from './guesses';
import { whileKept } from './kept';
import { measurementsOf } from './measurements';
import { assumedOf, type MotionInput, motionsOf, usualZero } from './motion';
import type { Sinking } from './sinking';
import { tailDoubt } from './tailDoubt';
import { unevenly } from './uneven';

/** A value with one standard deviation, and what was assumed before the log was read. */
export interface Estimate extends Valued {
  before: Valued;
}

export interface Reference {
  grid: Grid;
  /** %, at the end of each cell, and one standard deviation. */
  percent: Float64Array;
  deviation: Float64Array;
  capacityAh: Estimate;
  efficiencyPercent: Estimate;
  offsetA: Estimate;
  anchors: Anchor[];
  sinking: Sinking | null;
  /** Pairs of these that the log moves together: more of one is as good as more of the other. */
  entangled: [EstimateName, EstimateName, number][];
  /** By how much a zero error, and another capacity, beyond what is usual make the anchors likelier; natural logarithms. */
  favours: { offset: number; capacity: number };
}

export const ESTIMATES = ['capacity', 'efficiency', 'offset'] as const;
export type EstimateName = (typeof ESTIMATES)[number];

export interface ReferenceInput extends MotionInput {
  /** The most that the meter's zero may be off by, A; null where nothing shows it. */
  mostZeroA?: number | null;
  /** Its temperature as a rule, °C; NaN where nobody logged it. */
  celsius?: number;
  /** What its voltage says of its capacity as it sinks; null where it does not show. */
  sinking?: Sinking | null;
}

export function referenceOf({
  mostZeroA = null,
  celsius = NaN,
  sinking = null,
  ...input
}: ReferenceInput): Reference {
  const { bank, through } = input;
  const { grid } = through;
  const { capacityAh: label, chemistry } = bank;
  const anchors = input.anchors.flatMap((one) => whileKept(one, through, label));
  const { believed, favours } = guessesOf({
    bank,
    motionAt: motionsOf({ ...input, anchors }),
    measurements: measurementsOf(anchors, grid, isLead(chemistry)),
    sinking,
    mostZeroA,
  });
  const shared = tailDoubt(chemistry, celsius);
  const assumed = assumedOf(bank);
  const zero = usualZero(bank);
  // The label over the capacity is what the model has as an unknown.
  const inverse = meanOfGuesses(believed, (one) => ({
    value: label / heldBy(one),
    deviation: (deviationOf(one, 1) * label) / one.c,
  }));
  const offsetA = meanOfGuesses(believed, (one) => ({
    value: -one.smoothed.state[3]! * one.c,
    deviation: deviationOf(one, 3) * one.c,
  }));
  const efficiency = meanOfGuesses(believed, (one) => ({
    value: 100 * (assumed.efficiency - one.smoothed.state[2]! / (1 + one.smoothed.state[1]!)),
    deviation: 100 * deviationOf(one, 2),
  }));
  const course = meanCourse(believed);
  const uneven = unevenly(offsetA.value, zero, anchors, grid);
  return {
    grid,
    percent: course.level.map((one) => 100 * clamp(one, 0, 1)),
    deviation: course.deviation.map((one, k) => 100 * Math.hypot(one, shared, (uneven?.[k] ?? 0) / label)),
    capacityAh: {
      value: label / inverse.value,
      deviation: (label / inverse.value) * (inverse.deviation / inverse.value),
      before: { value: label, deviation: assumed.capacity * label },
    },
    efficiencyPercent: {
      ...efficiency,
      before: { value: 100 * assumed.efficiency, deviation: 100 * assumed.efficiencyDeviation },
    },
    // What the meter shows too much, A: taken off its current. What all anchors share is gained or lost once a day.
    offsetA: {
      value: offsetA.value,
      deviation: Math.hypot(offsetA.deviation, (shared * label) / 24),
      before: { value: 0, deviation: zero },
    },
    anchors,
    sinking,
    favours,
    entangled: entangledIn(believed[0]!),
  };
}

function entangledIn(one: Guess): Reference['entangled'] {
  const pairs = [
    [1, 2],
    [1, 3],
    [2, 3],
  ] as const;
  return pairs.flatMap(([i, j]): Reference['entangled'] => {
    const r = one.smoothed.covariance[i]![j]! / (deviationOf(one, i) * deviationOf(one, j));
    return Math.abs(r) > 0.8 ? [[ESTIMATES[i - 1]!, ESTIMATES[j - 1]!, r]] : [];
  });
}

/** State of charge and its standard deviation at a moment, %; NaN before and after the log. */
export function referenceAt(
  { grid, percent, deviation }: Pick<Reference, 'grid' | 'percent' | 'deviation'>,
  ms: number,
): { percent: number; deviation: number } {
  const cell = cellOf(grid, ms);
  if (cell < 0 || cell >= grid.count) return { percent: NaN, deviation: NaN };
  const before = Math.max(0, cell - 1);
  const share = clamp((ms - cellStart(grid, cell)) / grid.step, 0, 1);
  const mix = (of: Float64Array) => of[before]! + (of[cell]! - of[before]!) * share;
  return { percent: mix(percent), deviation: mix(deviation) };
}
