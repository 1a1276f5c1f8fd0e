/** The shares of several devices that fit the steps of the monitor's current best. */

import { quantile } from '../quantity/numbers';
import { leastSquares, robustLeastSquares, type Solution } from './leastSquares';

/** With more devices than this the starts are too many. */
const MOST_DEVICES = 4;
/** A fit that leaves over less than this part of what another leaves is the better one. */
export const CLEARLY = 0.6;
/** Steps that are left over by more deviations than this are not what the devices gave. */
const NEAR = 2.5;
/** Deviations of a normal distribution in its median residual. */
const DEVIATION = 1.4826;

/**
 * Two chargers that take turns step against each other, and a load that both answer moves them further than that: a few such steps can hold
 * a fit fast. Where each device seen wholly or not at all, or all of them the wrong way round, leaves clearly less over in the middle, the
 * steps near that tell the shares
 * (least median of squares as the start, then least squares over what is near: Rousseeuw and Leroy 1987, from memory).
 * @param columns steps of each device, A
 * @param values steps of the monitor's current, A
 */
export function fitOfShares(columns: readonly Float64Array[], values: Float64Array): Solution | null {
  const fit = robustLeastSquares({ columns, values });
  if (!fit || columns.length < 2 || columns.length > MOST_DEVICES) return fit;
  const left = (seen: readonly number[]) =>
    values.map((value, row) =>
      Math.abs(value - seen.reduce((sum, one, k) => sum + one * columns[k]![row]!, 0)),
    );
  const starts = [
    ...Array.from({ length: 2 ** columns.length }, (_, start) => columns.map((_, k) => (start >> k) & 1)),
    columns.map(() => -1),
  ];
  const tried = starts.map((seen) => {
    const each = left(seen);
    return { each, scatter: DEVIATION * quantile(each, 0.5) };
  });
  const best = tried.reduce((least, one) => (one.scatter < least.scatter ? one : least));
  if (best.scatter >= CLEARLY * fit.scatter) return fit;
  const weights = best.each.map((one) => (one <= NEAR * best.scatter ? 1 : 0));
  return leastSquares({ columns, values, weights }) ?? fit;
}
