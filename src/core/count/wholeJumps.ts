/** A monitor that writes the mean since its last row shows a jump of its percentage in two steps: the row between them stood at neither. */

import { medianStep } from '../log/grid';

/** Each of the two steps is so much at least, points, and those before and after them this part of the smaller at most. */
const STEP = 1;
const QUIET = 0.25;
/** The rows follow each other within so many of the usual steps. */
const NEXT = 2;

/** @param reading %, NaN where it is missing. @returns the same array where no jump stands in two steps */
export function withWholeJumps(reading: Float32Array, time: Float64Array): Float32Array {
  const most = NEXT * medianStep(time);
  let whole = reading;
  for (let i = 2; i + 2 < reading.length; i++) {
    const first = reading[i]! - reading[i - 1]!;
    if (!(Math.abs(first) >= STEP)) continue;
    const second = reading[i + 1]! - reading[i]!;
    if (!(Math.abs(second) >= STEP) || first > 0 !== second > 0) continue;
    const quiet = QUIET * Math.min(Math.abs(first), Math.abs(second));
    const isQuiet = (before: number) => Math.abs(reading[before + 1]! - reading[before]!) <= quiet;
    if (!isQuiet(i - 2) || !isQuiet(i + 1) || time[i + 2]! - time[i - 2]! > 4 * most) continue;
    if (whole === reading) whole = reading.slice();
    whole[i] = reading[i + 1]!;
  }
  return whole;
}
