/** Rows of two logs that are written as often, each by its own clock. */

import { median } from '../quantity/numbers';
import { firstAtOrAfter, medianStep } from './grid';

/** As often: steps that differ by less than this part. */
const ALIKE = 0.05;
/** So many rows tell how far they lie apart. */
const ROWS = 500;

/**
 * The times of a log, moved so that each of its rows lies at the nearest row of another log that is written as often: by half a row at most,
 * the same for all. Two devices that write each minute, one a second before the minute and one after it, would else lie a whole minute apart
 * on a grid of minutes. As they are where one is written more often.
 */
export function besideRows(time: Float64Array, rows: Float64Array): Float64Array {
  const step = medianStep(rows);
  if (!(Math.abs(medianStep(time) / step - 1) < ALIKE)) return time;
  const stride = Math.max(1, Math.floor(time.length / ROWS));
  const apart: number[] = [];
  for (let i = 0; i < time.length; i += stride) {
    const next = firstAtOrAfter(rows, time[i]!);
    const [before, after] = [rows[next - 1], rows[next]];
    const nearest = [before, after].reduce<number>(
      (least, one) =>
        one !== undefined && Math.abs(one - time[i]!) < Math.abs(least) ? one - time[i]! : least,
      Infinity,
    );
    if (Math.abs(nearest) <= step / 2) apart.push(nearest);
  }
  const phase = apart.length > 0 ? median(apart) : 0;
  return phase === 0 ? time : time.map((one) => one + phase);
}
