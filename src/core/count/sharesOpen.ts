/**
 * What leaves the share of a device open though its steps fit: it moves as one with another, another takes over what it lets go, rises and
 * falls tell different shares, or all comes at one time of the day.
 */

import { median, quantile } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { robustLeastSquares } from './leastSquares';

/**
 * Devices whose steps leave less than this part of each other's squares are as one: two controllers on one roof. What is left is the noise
 * of their meters, which parts them anyhow. Then each may be seen wholly or not at all.
 */
export const AS_ONE = 0.001;
/** How open the share of such a device is. */
export const UNTOLD = 1;

/** A slip of a meter makes a step there and one back; what so few steps have of their own tells nothing. */
const SLIPS = 4;

/** What the steps of a device have of their own, for each column: part of their squares that the other columns do not tell. */
export function partsAlone(columns: readonly Float64Array[]): number[] {
  return columns.map((own, k) => {
    const others = columns.filter((_, j) => j !== k);
    const fit = others.length > 0 ? robustLeastSquares({ columns: others, values: own }) : null;
    if (!fit) return 1;
    const left = own.map((step, row) => {
      const told = others.reduce((sum, one, j) => sum + fit.values[j]! * one[row]!, 0);
      return (step - told) ** 2;
    });
    const squares = own.reduce((sum, one) => sum + one * one, 0);
    return (
      left
        .sort()
        .subarray(0, Math.max(0, left.length - SLIPS))
        .reduce((sum, one) => sum + one, 0) / squares
    );
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

/**
 * What one charger lets go of another takes over: as long as the other's own steps do not say whether the monitor sees it, it may be seen
 * wholly, and how far the share of each column lies then from the one that came out.
 * @param told whether the steps of a column are enough to tell its share
 */
export function openByOthers(
  columns: readonly Float64Array[],
  values: Float64Array,
  shares: Float64Array,
  told: readonly boolean[],
): number[] {
  const untold = columns.filter((_, k) => !told[k]!);
  return columns.map((own, k) => {
    const seen = untold.filter((one) => one !== own);
    const others = columns.filter((one) => one !== own && !seen.includes(one));
    if (seen.length === 0) return 0;
    const fit = robustLeastSquares({
      columns: [own, ...others],
      values: values.map((one, row) => seen.reduce((left, { [row]: step }) => left - step!, one)),
    });
    return fit ? Math.abs(fit.values[0]! - shares[k]!) : 0;
  });
}

/**
 * Steps come at one time of the day where so much of their squares lies within two hours of the clock; what is left without an hour of them
 * tells a share of its own where it still has so much of them.
 */
const AT_ONE_TIME = 0.6;
const LEFT = 0.1;
/** Seen wholly, not at all, or the wrong way round, to within so much: a load that comes with the sun would have to hit that by chance. */
const NATURAL = { shares: [-1, 0, 1], within: 0.07 };

const hourOf = (ms: number): number => (ms / HOUR) % 24;
/** Whether an hour of the day lies within so many after another. */
const isWithin = (hour: number, from: number, hours: number): boolean => (hour - from + 24) % 24 < hours;

/**
 * A sun that rises into a house that wakes, mains that come by the clock: steps at one time of the day may have a load with them each time, and
 * their scatter does not show it. Steps of another half hour then tell another share: how far apart they are, for one column.
 * @param times of the steps, epoch ms. @param share of the column as it came out. @param untold how open it is where no other steps are left
 */
export function openAtOneTime(
  columns: readonly Float64Array[],
  values: Float64Array,
  times: readonly number[],
  at: number,
  share: number,
  untold: () => number,
): number {
  if (NATURAL.shares.some((one) => Math.abs(share - one) <= NATURAL.within)) return 0;
  const steps = columns[at]!;
  const hours = times.map(hourOf);
  const all = [...hours.keys()];
  const squaresOf = (rows: readonly number[]) => rows.reduce((sum, row) => sum + steps[row]! ** 2, 0);
  const whole = squaresOf(all);
  const busiest = Array.from({ length: 24 }, (_, from) => {
    const rows = all.filter((row) => isWithin(hours[row]!, from, 2));
    return { rows, squares: squaresOf(rows) };
  }).reduce((most, one) => (one.squares > most.squares ? one : most));
  if (busiest.squares < AT_ONE_TIME * whole) return 0;
  const begins = new Set(busiest.rows.map((row) => Math.floor(2 * hours[row]!) / 2));
  return Math.max(
    0,
    ...[...begins].map((from) => {
      const left = all.filter((row) => !isWithin(hours[row]!, from, 1));
      if (squaresOf(left) < LEFT * whole) return untold();
      const fit = robustLeastSquares({
        columns: columns.map((one) => Float64Array.from(left, (row) => one[row]!)),
        values: Float64Array.from(left, (row) => values[row]!),
      });
      return fit ? Math.abs(fit.values[at]! - share) : 0;
    }),
  );
}

/**
 * A source gives, or is off, at these parts of the most that it gives, for so many cells each; and how much the battery then takes where the
 * loads draw least, as a quantile.
 */
const LEVELS = { gives: 0.9, off: 0.01, cells: 60, least: 0.9 };

/**
 * How far the share that the steps of the only source tell lies from the one that its levels do: loads draw as little at times whether it
 * gives or not, so what the battery takes at most differs by what the source gives.
 */
export function openByLevels(own: Float32Array, amps: Float32Array, share: number): number {
  const most = quantile(own, 0.995);
  const cellsOf = (fits: (one: number) => boolean) =>
    [...own.keys()].filter((i) => fits(own[i]!) && amps[i]! === amps[i]!);
  const gives = cellsOf((one) => one >= LEVELS.gives * most);
  const off = cellsOf((one) => one <= LEVELS.off * most);
  if (!(most > 0) || Math.min(gives.length, off.length) < LEVELS.cells) return 0;
  const takes = (cells: readonly number[]) =>
    quantile(
      cells.map((i) => amps[i]!),
      LEVELS.least,
    );
  return Math.abs((takes(gives) - takes(off)) / median(gives.map((i) => own[i]!)) - share);
}
