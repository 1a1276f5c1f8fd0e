/** One log's means around the times of another that is written more seldom. */

import { interpolateAt } from './interpolateAt';

/**
 * The mean of what was written from half way to the time before until half way to the time after; the line between neighbours where that
 * holds fewer than two samples, NaN in gaps and beyond the ends. Both times rise.
 */
export function meansAround(
  time: Float64Array,
  values: Float32Array,
  at: Float64Array,
): Float32Array<ArrayBuffer> {
  const out = interpolateAt(time, values, at);
  let k = 0;
  for (let i = 0; i < at.length; i++) {
    if (out[i]! !== out[i]!) continue;
    const before = at[i - 1] ?? 2 * at[i]! - at[i + 1]!;
    const after = at[i + 1] ?? 2 * at[i]! - before;
    const until = (at[i]! + after) / 2;
    while (k < time.length && time[k]! < (at[i]! + before) / 2) k++;
    let sum = 0;
    let count = 0;
    for (; k < time.length && time[k]! < until; k++) {
      if (values[k]! !== values[k]!) continue;
      sum += values[k]!;
      count++;
    }
    if (count >= 2) out[i] = sum / count;
  }
  return out;
}
