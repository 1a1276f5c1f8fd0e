/** One log's values at the times of another. */

import { gapLimit, medianStep } from './grid';

/** For each moment the last row before it, or the row at it, if the next one follows without a gap; -1 for none. Both times rise. */
function rowsBefore(time: Float64Array, at: Float64Array): Int32Array {
  const out = new Int32Array(at.length).fill(-1);
  const limit = gapLimit(medianStep(time));
  let k = 0;
  for (let i = 0; i < at.length; i++) {
    while (k + 1 < time.length && time[k + 1]! <= at[i]!) k++;
    const t0 = time[k]!;
    const t1 = time[k + 1];
    if (at[i]! === t0 || (t1 !== undefined && at[i]! > t0 && t1 - t0 <= limit)) out[i] = k;
  }
  return out;
}

/** The line between neighbours; NaN in gaps and beyond the ends. Both times rise. */
export function interpolateAt(
  time: Float64Array,
  values: Float32Array,
  at: Float64Array,
): Float32Array<ArrayBuffer> {
  const out = new Float32Array(at.length).fill(NaN);
  rowsBefore(time, at).forEach((k, i) => {
    if (k < 0) return;
    const since = at[i]! - time[k]!;
    out[i] =
      since === 0
        ? values[k]!
        : values[k]! + ((values[k + 1]! - values[k]!) * since) / (time[k + 1]! - time[k]!);
  });
  return out;
}

/** The least and the most that a value may have been between the rows about a moment, if it went straight from one to the other at any time. */
export function boundsAt(
  time: Float64Array,
  values: Float32Array,
  at: Float64Array,
): { least: Float32Array; most: Float32Array } {
  const least = new Float32Array(at.length).fill(NaN);
  const most = new Float32Array(at.length).fill(NaN);
  rowsBefore(time, at).forEach((k, i) => {
    if (k < 0) return;
    const next = at[i] === time[k] ? values[k]! : values[k + 1]!;
    least[i] = Math.min(values[k]!, next);
    most[i] = Math.max(values[k]!, next);
  });
  return { least, most };
}
