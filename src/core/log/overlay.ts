/** Two logs laid over each other, as they stand and with the clock of the second set right: what a person judges an estimate by. */

import { DAY, lengthOf, MINUTE } from '../quantity/span';
import { setClock } from './clock';
import { ampsOf, type ClockOffset, clockOffset, voltsOf } from './clockOffset';
import type { Series } from './channels';
import { firstAtOrAfter, type Grid, medianStep, toGrid } from './grid';

export interface Overlay {
  unit: 'V' | 'A';
  /** Epoch ms of the first point, and the step between points. */
  from: number;
  step: number;
  /** Values at each point; null where there are none. */
  first: (number | null)[];
  second: (number | null)[];
  /** The second with its clock set right. */
  shifted: (number | null)[];
}

export interface ClockEstimate {
  offset: ClockOffset;
  overlay: Overlay;
}

const POINTS = 240;

/** Null when the two have seen nothing in common. */
export function estimateClock(first: Series, second: Series): ClockEstimate | null {
  const offset = clockOffset(first, second);
  if (!offset) return null;
  const volts = offset.seen === 'voltage';
  const a = (volts ? voltsOf : ampsOf)(first)!;
  const b = (volts ? voltsOf : ampsOf)(second)!;
  const clock = { timeZone: 'UTC', offsetSeconds: offset.ms / 1000, secondsPerDay: offset.secondsPerDay };
  const set = setClock(second.time, null, clock);
  const grid = liveliest(first.time, a, offset);
  return {
    offset,
    overlay: {
      unit: volts ? 'V' : 'A',
      from: grid.from,
      step: grid.step,
      first: pointsOf(first.time, a, grid),
      second: pointsOf(second.time, b, grid),
      shifted: pointsOf(set, b, grid),
    },
  };
}

/** The day of the overlap on which the first moves most. */
function liveliest(time: Float64Array, values: Float32Array, { overlap }: ClockOffset): Grid {
  const length = Math.min(DAY, lengthOf(overlap));
  const step = Math.max(MINUTE, medianStep(time), length / POINTS);
  let best = { from: overlap.from, spread: -1 };
  for (let from = overlap.from; from + length <= overlap.to + 1; from += length) {
    let low = Infinity;
    let high = -Infinity;
    for (let i = firstAtOrAfter(time, from); i < time.length && time[i]! < from + length; i++) {
      low = Math.min(low, values[i]! === values[i]! ? values[i]! : low);
      high = Math.max(high, values[i]! === values[i]! ? values[i]! : high);
    }
    if (high - low > best.spread) best = { from, spread: high - low };
  }
  return { from: best.from, step, count: Math.max(2, Math.floor(length / step)), cuts: [] };
}

function pointsOf(time: Float64Array, values: Float32Array, grid: Grid): (number | null)[] {
  const from = firstAtOrAfter(time, grid.from - grid.step);
  const to = firstAtOrAfter(time, grid.from + (grid.count + 1) * grid.step);
  return Array.from(toGrid(time.subarray(from, to), values.subarray(from, to), grid), (value) =>
    value === value ? Number(value.toFixed(3)) : null,
  );
}
