/** Minimum and maximum over runs of samples, so that a strip draws a year as fast as an hour. */

/** Samples that one bucket of a stored summary takes. */
export const SUMMARY_SIZE = 64;

export interface Extent<A = Float32Array> {
  min: A;
  max: A;
}

/** Minimum and maximum of every `size` samples; NaN samples are passed over, a bucket with no others is NaN. */
export function summarise(values: Float32Array, size = SUMMARY_SIZE): Extent {
  const count = Math.ceil(values.length / size);
  const min = new Float32Array(count);
  const max = new Float32Array(count);
  for (let bucket = 0; bucket < count; bucket++) {
    let low = Infinity;
    let high = -Infinity;
    const end = Math.min(values.length, (bucket + 1) * size);
    for (let i = bucket * size; i < end; i++) {
      const value = values[i]!;
      if (value < low) low = value;
      if (value > high) high = value;
    }
    // Nothing was seen when no value was as low as the other was high.
    const empty = low > high;
    min[bucket] = empty ? NaN : low;
    max[bucket] = empty ? NaN : high;
  }
  return { min, max };
}

/**
 * Minimum and maximum in each of `count` even slices of a span: what a strip draws, one slice a pixel column.
 * @param time epoch ms of samples, or of the first sample of each summary bucket; rising.
 * @param values samples as `{ min: values, max: values }`, or summary buckets. Slices without any are NaN.
 */
export function sliceExtent(
  time: Float64Array,
  values: Extent,
  from: number,
  to: number,
  count: number,
): Extent {
  const min = new Float32Array(count).fill(NaN);
  const max = new Float32Array(count).fill(NaN);
  const width = (to - from) / count;
  for (let i = 0; i < time.length; i++) {
    const slice = Math.floor((time[i]! - from) / width);
    if (slice < 0 || slice >= count) continue;
    const low = values.min[i]!;
    const high = values.max[i]!;
    if (low !== low) continue;
    if (!(min[slice]! <= low)) min[slice] = low;
    if (!(max[slice]! >= high)) max[slice] = high;
  }
  return { min, max };
}
