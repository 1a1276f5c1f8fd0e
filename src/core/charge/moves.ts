/** How two currents move beside each other: the changes of both over a few minutes, in a window about each cell. */

import { MINUTE } from '../quantity/span';

/** Currents are compared over so long, and over so many changes at the least. */
const WINDOW = 40 * MINUTE;
const LEAST = 8;
/** Changes that follow on each other share their cause: so many count as one. */
const ALIKE = 4;
/** A current moves when its changes are so many times the meter's noise. */
const MOVES = 3;

export interface Current {
  amps: Float32Array;
  /** One standard deviation, A. */
  noise: number;
}

export interface Moves {
  /** Whether the one and the other move beyond their noise. */
  one: boolean;
  other: boolean;
  /** Correlation of their changes. */
  alike: number;
  /** Log-likelihood, nats, that the one moves more: a half for each change that counts, times the log of the ratio of their squares. */
  more: number;
}

/**
 * Compares the changes of two currents on one grid.
 * @param step of the grid, ms. @param lag over which changes are taken, ms; at least a cell
 * @returns what a window about a cell shows; null where too little is known or nothing moves
 */
export function compareMoves(
  one: Current,
  other: Current,
  step: number,
  lag: number,
): (cell: number) => Moves | null {
  const count = one.amps.length;
  const cells = Math.max(1, Math.round(lag / step));
  const half = Math.max(LEAST, Math.round(WINDOW / step)) >> 1;
  const sums = runningProducts(one.amps, other.amps, cells);
  const oneNoise = 2 * one.noise ** 2;
  const otherNoise = 2 * other.noise ** 2;
  return (cell) => {
    const from = Math.max(0, cell - half) * 4;
    const to = Math.min(count, cell + half + cells) * 4;
    const n = sums[to]! - sums[from]!;
    if (n < LEAST) return null;
    const a = (sums[to + 1]! - sums[from + 1]!) / n;
    const b = (sums[to + 2]! - sums[from + 2]!) / n;
    const moves = { one: a > MOVES ** 2 * oneNoise, other: b > MOVES ** 2 * otherNoise };
    if (!moves.one && !moves.other) return null;
    const both = (sums[to + 3]! - sums[from + 3]!) / n;
    return {
      ...moves,
      alike: both / Math.sqrt((a + oneNoise) * (b + otherNoise)),
      more: (n / ALIKE / 2) * Math.log((a + oneNoise) / (b + otherNoise)),
    };
  };
}

/** Running sums of the changes: how many, of their squares, and of their products; four places a cell. */
function runningProducts(one: Float32Array, other: Float32Array, cells: number): Float64Array {
  const sums = new Float64Array((one.length + 1) * 4);
  for (let cell = 0; cell < one.length; cell++) {
    const at = (cell + 1) * 4;
    sums.copyWithin(at, at - 4, at);
    if (cell < cells) continue;
    const a = one[cell]! - one[cell - cells]!;
    const b = other[cell]! - other[cell - cells]!;
    if (a !== a || b !== b) continue;
    sums[at]! += 1;
    sums[at + 1]! += a * a;
    sums[at + 2]! += b * b;
    sums[at + 3]! += a * b;
  }
  return sums;
}
