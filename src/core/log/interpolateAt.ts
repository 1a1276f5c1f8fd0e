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

/** At a moment between the rows `k` and the next one, or at `k` itself. */
const lineAt = (time: Float64Array, values: Float32Array, k: number, at: number): number => {
  const since = at - time[k]!;
  return since === 0
    ? values[k]!
    : values[k]! + ((values[k + 1]! - values[k]!) * since) / (time[k + 1]! - time[k]!);
};

/** The line between neighbours; NaN in gaps and beyond the ends. Both times rise. */
export function interpolateAt(
  time: Float64Array,
  values: Float32Array,
  at: Float64Array,
): Float32Array<ArrayBuffer> {
  const out = new Float32Array(at.length).fill(NaN);
  rowsBefore(time, at).forEach((k, i) => {
    if (k >= 0) out[i] = lineAt(time, values, k, at[i]!);
  });
  return out;
}

export interface Between {
  /** The line between neighbours, as `interpolateAt` has it. */
  line: Float32Array;
  /** What the value may have been at the least and at the most, if it went straight from one row to the next at any time between. */
  least: Float32Array;
  most: Float32Array;
}

/** What one log's values were at the times of another, and what they may have been; NaN in gaps and beyond the ends. */
export function boundsAt(time: Float64Array, values: Float32Array, at: Float64Array): Between {
  const [line, least, most] = [1, 2, 3].map(() => new Float32Array(at.length).fill(NaN)) as [
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  rowsBefore(time, at).forEach((k, i) => {
    if (k < 0) return;
    const next = at[i] === time[k] ? values[k]! : values[k + 1]!;
    line[i] = lineAt(time, values, k, at[i]!);
    least[i] = Math.min(values[k]!, next);
    most[i] = Math.max(values[k]!, next);
  });
  return { line, least, most };
}
