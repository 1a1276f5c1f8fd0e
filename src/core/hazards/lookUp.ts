/** Another log's value at the moments of this one. */

import { gapLimit, medianStep } from '../log/grid';

/**
 * A reader of a channel that goes forward only: the last sample at or before a moment, NaN where that lies in a gap.
 * @param time epoch ms, rising
 */
export function lookUp(time: Float64Array, values: Float32Array): (ms: number) => number {
  const limit = gapLimit(medianStep(time));
  let k = -1;
  return (ms) => {
    while (k + 1 < time.length && time[k + 1]! <= ms) k++;
    return k >= 0 && ms - time[k]! <= limit ? values[k]! : NaN;
  };
}
