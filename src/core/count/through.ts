/** Charge through the battery, counted from the samples, on even cells that the state of charge is reckoned over. */

import { HOUR, MINUTE, type Span } from '../quantity/span';
import { cellOf, type Grid, gapLimit, judgingGrid, medianStep } from '../log/grid';

export interface Through {
  grid: Grid;
  /** Ah in and out, both positive, and hours that were integrated, a value a cell. */
  in: Float64Array;
  out: Float64Array;
  hours: Float64Array;
  /** Ah that a gap hides, by the mean of the currents beside it; they stand in the cell in which the gap ends. */
  hidden: Float64Array;
  /** What that may be off by, Ah: as much as flows in so long at other times, or all of it. */
  hiddenError: Float64Array;
}

/** Cells of the ledger: no wider than a sync wants to be judged, no more than a smoother runs through at once. */
const CELL = 5 * MINUTE;
const MOST_CELLS = 6_000;

export function ledgerGrid(span: Span, time: Float64Array): Grid {
  const step = Math.max(CELL, medianStep(time));
  const cells = judgingGrid(span, step, time).count;
  return judgingGrid(span, step * Math.max(1, Math.ceil(cells / MOST_CELLS)), time);
}

/** @param amps A into the battery, positive when charging. Trapezoids between samples, as everywhere where charge is counted. */
export function throughOf(time: Float64Array, amps: ArrayLike<number>, grid: Grid): Through {
  const { count } = grid;
  const through: Through = {
    grid,
    in: new Float64Array(count),
    out: new Float64Array(count),
    hours: new Float64Array(count),
    hidden: new Float64Array(count),
    hiddenError: new Float64Array(count),
  };
  const gaps: { cell: number; hours: number }[] = [];
  const limit = gapLimit(medianStep(time));
  /** The sample before that has a current: one that lacks it hides as much as one that was not written. */
  let last = -1;
  for (let i = 0; i < time.length; i++) {
    if (amps[i]! !== amps[i]!) continue;
    const before = last;
    last = i;
    if (before < 0) continue;
    const ms = time[i]! - time[before]!;
    const middle = (amps[i]! + amps[before]!) / 2;
    const cell = cellOf(grid, ms > limit ? time[i]! : time[i]! - ms / 2);
    if (cell < 0 || cell >= count) continue;
    const hours = ms / HOUR;
    if (ms > limit) {
      through.hidden[cell]! += middle * Math.min(hours, 24);
      gaps.push({ cell, hours: Math.min(hours, 24) });
      continue;
    }
    if (middle > 0) through.in[cell]! += middle * hours;
    else through.out[cell]! -= middle * hours;
    through.hours[cell]! += hours;
  }
  if (gaps.length > 0) addErrors(through, gaps);
  return through;
}

/** Of so many windows the mean of the squares is known well enough. */
const WINDOWS = 500;

function addErrors(
  { grid, in: into, out, hidden, hiddenError }: Through,
  gaps: readonly { cell: number; hours: number }[],
) {
  const sums = new Float64Array(grid.count + 1);
  for (let k = 0; k < grid.count; k++) sums[k + 1] = sums[k]! + into[k]! - out[k]!;
  for (const { cell, hours } of gaps) {
    const size = Math.min(grid.count, Math.max(1, Math.round((hours * HOUR) / grid.step)));
    const stride = Math.max(1, Math.floor((grid.count - size) / WINDOWS));
    let squares = 0;
    let windows = 0;
    for (let from = 0; from + size <= grid.count; from += stride) {
      squares += (sums[from + size]! - sums[from]!) ** 2;
      windows++;
    }
    const usual = Math.sqrt(squares / windows);
    hiddenError[cell] = Math.hypot(hiddenError[cell]!, Math.max(usual, Math.abs(hidden[cell]!)));
  }
}
