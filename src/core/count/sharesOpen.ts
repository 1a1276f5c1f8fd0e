/** What leaves the share of a device open though its steps fit: it moves as one with another, or rises and falls tell different shares. */

import { leastSquares, robustLeastSquares } from './leastSquares';

/**
 * Devices whose steps leave less than this part of each other's squares are as one: two controllers on one roof. What is left is the noise
 * of their meters, which parts them anyhow. Then each may be seen wholly or not at all.
 */
export const AS_ONE = 0.001;
/** How open the share of such a device is. */
export const UNTOLD = 1;

/** What the steps of a device have of their own, for each column: part of their squares that the other columns do not tell. */
export function partsAlone(columns: readonly Float64Array[]): number[] {
  return columns.map((own, k) => {
    const others = columns.filter((_, j) => j !== k);
    const fit = others.length > 0 ? leastSquares({ columns: others, values: own }) : null;
    if (!fit) return 1;
    const squares = own.reduce((sum, one) => sum + one * one, 0);
    return (fit.scatter ** 2 * (own.length - others.length)) / squares;
  });
}

/** A share is told by the rises, or the falls, where it is within so many of their errors. */
const TOLD = 3;

/**
 * Rises and falls of a device tell the same share of it, unless something else always comes with the one or the other, as a load that is
 * switched on when a charger goes off. A share that neither tells lies between them: how far it is from the nearer, for each column.
 */
export function openByDirection(
  columns: readonly Float64Array[],
  values: Float64Array,
  shares: Float64Array,
  widen: number,
): number[] {
  const fit = robustLeastSquares({
    columns: columns.flatMap((one) => [
      one.map((step) => Math.max(0, step)),
      one.map((step) => Math.min(0, step)),
    ]),
    values,
  });
  return columns.map((_, k) => {
    if (!fit) return 0;
    const directions = [2 * k, 2 * k + 1].map((at) => ({
      apart: Math.abs(fit.values[at]! - shares[k]!),
      error: widen * fit.errors[at]!,
    }));
    const isTold = directions.some(({ apart, error }) => apart <= TOLD * error);
    return isTold ? 0 : Math.min(...directions.map((one) => one.apart));
  });
}
