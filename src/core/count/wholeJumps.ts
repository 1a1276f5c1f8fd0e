/** A monitor that writes the mean since its last row shows a jump of its percentage in two steps: the row between them stood at neither. */

import { medianStep } from '../log/grid';
import { HOUR } from '../quantity/span';

/** Each of the two steps is so much at least, points, and those before and after them this part of the smaller at most. */
const STEP = 1;
const QUIET = 0.25;
/** The rows follow each other within so many of the usual steps. */
const NEXT = 2;
/** What goes no further than so many times what flowed was counted. */
const COUNTED = 1.5;

/** What the monitor counts, A into the battery, and by what capacity. */
export interface Counted {
  amps: Float32Array;
  capacityAh: number;
}

/** @param reading %, NaN where it is missing. @param counted null where that is not known. @returns the same array where no jump stands in two steps */
export function withWholeJumps(
  reading: Float32Array,
  time: Float64Array,
  counted: Counted | null,
): Float32Array {
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
    if (counted && isCounted(reading, time, counted, i)) continue;
    if (whole === reading) whole = reading.slice();
    whole[i] = reading[i + 1]!;
  }
  return whole;
}

/** Whether both steps about a row are no more than what flowed: a large charger beside seldom rows makes such steps by counting. */
function isCounted(
  reading: Float32Array,
  time: Float64Array,
  { amps, capacityAh }: Counted,
  i: number,
): boolean {
  const went = reading[i + 1]! - reading[i - 1]!;
  const most = [i - 1, i, i + 1].reduce((flow, at) => Math.max(flow, Math.sign(went) * amps[at]!), 0);
  const hours = (time[i + 1]! - time[i - 1]!) / HOUR;
  return Math.abs(went) <= (COUNTED * 100 * most * hours) / capacityAh;
}
