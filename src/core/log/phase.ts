/** Rows of two logs that are written as often, each by its own clock. */

import { median } from '../quantity/numbers';
import { firstAtOrAfter, medianStep } from './grid';

/** As often: steps that differ by less than this part. */
const ALIKE = 0.05;
/** A row is at another's within this part of a step. */
const NEAR = 0.25;
/** So many rows tell how far they lie apart. */
const ROWS = 500;

/**
 * The times of a log, moved so that each of its rows lies at the nearest row of another log that is written as often: by half a row at most,
 * the same for all, and what is left, up to a quarter of a row, each by itself. Two devices that write each minute, one a second before the
 * minute and one after it, would else lie a whole minute apart on a grid of minutes. As they are where one is written more often.
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
  if (apart.every((one) => one === 0)) return time;
  const phase = median(apart);
  return laidAt(phase === 0 ? time : time.map((one) => one + phase), rows, NEAR * step);
}

/** Each time that has a row this near is laid at it: a clock that writes whole seconds would else lie now before it, now behind. */
function laidAt(time: Float64Array, rows: Float64Array, near: number): Float64Array {
  let next = 0;
  let isMoved = false;
  const laid = time.map((one) => {
    while (next < rows.length && rows[next]! < one - near) next++;
    const row = rows[next]!;
    // Of two that are near, the nearer.
    const after = rows[next + 1]!;
    const at = Math.abs(after - one) < Math.abs(row - one) ? after : row;
    if (!(Math.abs(at - one) <= near) || at === one) return one;
    isMoved = true;
    return at;
  });
  return isMoved ? laid : time;
}
