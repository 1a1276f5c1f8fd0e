/** One log's values at the times of another. */

import { gapLimit, medianStep } from './grid';

/** The line between neighbours; NaN in gaps and beyond the ends. Both times rise. */
export function interpolateAt(
  time: Float64Array,
  values: Float32Array,
  at: Float64Array,
): Float32Array<ArrayBuffer> {
  const out = new Float32Array(at.length).fill(NaN);
  const limit = gapLimit(medianStep(time));
  let k = 0;
  for (let i = 0; i < at.length; i++) {
    while (k + 1 < time.length && time[k + 1]! < at[i]!) k++;
    const t0 = time[k]!;
    const t1 = time[k + 1];
    if (at[i]! === t0) out[i] = values[k]!;
    else if (at[i]! === t1) out[i] = values[k + 1]!;
    else if (t1 !== undefined && at[i]! > t0 && at[i]! <= t1 && t1 - t0 <= limit)
      out[i] = values[k]! + ((values[k + 1]! - values[k]!) * (at[i]! - t0)) / (t1 - t0);
  }
  return out;
}
