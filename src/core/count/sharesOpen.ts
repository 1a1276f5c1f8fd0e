/**
 * What leaves the share of a device open though its steps fit: it moves as one with another, rises and falls tell different shares, or all
 * comes at one time of the day.
 */

import { HOUR } from '../quantity/span';
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

/** Steps come at one time of the day where so much of their squares lies within two hours of the clock. */
const AT_ONE_TIME = 0.6;
/** Seen wholly, not at all, or the wrong way round, to within so much: a load that comes with the sun would have to hit that by chance. */
const NATURAL = { shares: [-1, 0, 1], within: 0.07 };
/** Days of an hour that show what the clock switches in it. */
const FEWEST_DAYS = 3;

/** How the battery's current moves by the hour of the day where no device moves: A in all, and cells. */
export interface Hourly {
  moves: Float64Array;
  cells: Uint32Array;
}

export const hourly = (): Hourly => ({ moves: new Float64Array(24), cells: new Uint32Array(24) });

export const hourOf = (ms: number): number => Math.floor(ms / HOUR) % 24;

/** The most that loads are switched on or off by within one hour of each day, A: what comes and goes at random cancels. */
export function switchedByClock({ moves, cells }: Hourly, step: number, lag: number): number {
  const inHour = HOUR / step;
  return Math.max(
    ...moves.map((sum, hour) =>
      cells[hour]! >= FEWEST_DAYS * inHour ? (Math.abs(sum / cells[hour]!) * inHour) / lag : 0,
    ),
  );
}

/**
 * A sun that rises into a house that wakes, mains that come by the clock: steps at one time of the day may have a load with them each time, and
 * their scatter does not show it. How far that can bend the share of a source.
 * @param share as it came out. @param times of the steps, epoch ms. @param switched {@link switchedByClock}
 */
export function openAtOneTime(
  share: number,
  steps: Float64Array,
  times: readonly number[],
  switched: number,
): number {
  if (NATURAL.shares.some((one) => Math.abs(share - one) <= NATURAL.within)) return 0;
  const squares = new Float64Array(24);
  const sizes = new Float64Array(24);
  steps.forEach((step, k) => {
    const hour = hourOf(times[k]!);
    squares[hour]! += step * step;
    sizes[hour]! += Math.abs(step);
  });
  const all = squares.reduce((sum, one) => sum + one, 0);
  if (all === 0) return 0;
  const inTwoHours = (of: Float64Array) => of.map((one, hour) => one + of[(hour + 1) % 24]!);
  const windows = inTwoHours(squares);
  const busiest = windows.indexOf(Math.max(...windows));
  if (windows[busiest]! < AT_ONE_TIME * all) return 0;
  return (switched * inTwoHours(sizes)[busiest]!) / all;
}
