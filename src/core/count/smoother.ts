/**
 * A Kalman filter and the smoother behind it (Rauch, Tung and Striebel, AIAA Journal 3, 1965) for one quantity that moves and a few
 * constants that say how: x[0] changes from step to step by a row of known factors times x, the others stay what they are.
 */

import { substitute } from './leastSquares';

export interface Smoother {
  /** Of every step x[0] and its standard deviation, once all measurements are known. */
  level: Float64Array;
  deviation: Float64Array;
  /** Constants and their covariance at the end; [0] is the level at the end. */
  state: Float64Array;
  covariance: Float64Array[];
  /** Logarithm of how probable these measurements were under the first guess: of two guesses the better has more. */
  evidence: number;
}

export interface Motion {
  /** Number of steps, and of unknowns with the level. */
  steps: number;
  size: number;
  /** What is added to the level in a step whatever the constants are. */
  drive: Float64Array;
  /** Row of the step: change of the level for a unit of each constant, size − 1 values a step, one after the other. */
  rows: Float64Array;
  /** Variance that the level gains in the step. */
  noise: Float64Array;
}

/** After a step, the row of `h` times x was seen as `value`, with that standard deviation. */
export interface Measurement {
  step: number;
  value: number;
  deviation: number;
  h: readonly number[];
}

/**
 * @param measurements rising by step
 * @param start first guess and its standard deviations, independent of each other
 */
export function smooth(
  motion: Motion,
  measurements: readonly Measurement[],
  start: { state: readonly number[]; deviations: readonly number[] },
): Smoother {
  const { steps, size: n, drive, rows, noise } = motion;
  const x = Float64Array.from(start.state);
  const p = new Float64Array(n * n);
  for (let i = 0; i < n; i++) p[i * n + i] = start.deviations[i]! ** 2;
  // The filter forward: of each step the covariance before its measurements, and of the state after them what moves.
  const predicted = new Float64Array(steps);
  const predictedP = new Float64Array(steps * n * n);
  const filtered = new Float64Array(steps * n);
  const filteredRow = new Float64Array(steps * n);
  const gain = new Float64Array(n);
  const column = new Float64Array(n);
  let next = 0;
  let evidence = 0;
  for (let k = 0; k < steps; k++) {
    move(x, p, n, drive[k]!, rows, k * (n - 1), noise[k]!);
    predicted[k] = x[0]!;
    predictedP.set(p, k * n * n);
    while (next < measurements.length && measurements[next]!.step === k) {
      const { value, deviation, h } = measurements[next++]!;
      let variance = deviation ** 2;
      let seen = 0;
      for (let i = 0; i < n; i++) {
        let sum = 0;
        for (let j = 0; j < n; j++) sum += p[i * n + j]! * (h[j] ?? 0);
        column[i] = sum;
        variance += (h[i] ?? 0) * sum;
        seen += (h[i] ?? 0) * x[i]!;
      }
      evidence -= (Math.log(2 * Math.PI * variance) + (value - seen) ** 2 / variance) / 2;
      for (let i = 0; i < n; i++) gain[i] = column[i]! / variance;
      for (let i = 0; i < n; i++) {
        x[i]! += gain[i]! * (value - seen);
        for (let j = 0; j < n; j++) p[i * n + j]! -= gain[i]! * column[j]!;
      }
    }
    filtered.set(x, k * n);
    for (let j = 0; j < n; j++) filteredRow[k * n + j] = p[j]!;
  }
  return { ...backward(motion, { x, p, predicted, predictedP, filtered, filteredRow }), evidence };
}

/** One step forward, in place: level += drive + row · constants. */
function move(
  x: Float64Array,
  p: Float64Array,
  n: number,
  drive: number,
  rows: Float64Array,
  at: number,
  noise: number,
): void {
  x[0]! += drive;
  for (let j = 1; j < n; j++) x[0]! += rows[at + j - 1]! * x[j]!;
  // P = F P Fᵀ, F the unit matrix but for its first row: the constants' own covariance stays.
  for (let i = 1; i < n; i++) {
    const factor = rows[at + i - 1]!;
    if (factor === 0) continue;
    for (let j = 0; j < n; j++) p[j]! += factor * p[i * n + j]!;
  }
  for (let j = 1; j < n; j++) {
    p[0]! += rows[at + j - 1]! * p[j]!;
    p[j * n] = p[j]!;
  }
  p[0]! += noise;
}

interface Filtered {
  /** At the end. */
  x: Float64Array;
  p: Float64Array;
  /** Level before the measurements of a step, and covariance. */
  predicted: Float64Array;
  predictedP: Float64Array;
  /** State after them, and the level's row of the covariance. */
  filtered: Float64Array;
  filteredRow: Float64Array;
}

/**
 * With F = I + e₀rᵀ, the noise q on the level alone and M the predicted covariance, the smoother's gain P Fᵀ M⁻¹ is I − e₀wᵀ with
 * w = r + q M⁻¹e₀: only the level and its row of the covariance change on the way back.
 */
function backward(
  { steps, size: n, rows, noise }: Motion,
  { x, p, predicted, predictedP, filtered, filteredRow }: Filtered,
): Omit<Smoother, 'evidence'> {
  const level = new Float64Array(steps);
  const deviation = new Float64Array(steps);
  const state = x.slice();
  const covariance = Array.from({ length: n }, (_, i) => p.slice(i * n, (i + 1) * n));
  level[steps - 1] = x[0]!;
  deviation[steps - 1] = Math.sqrt(Math.max(0, p[0]!));
  const w = new Float64Array(n);
  const spreadW = new Float64Array(n);
  const factor = new Float64Array(n * n);
  for (let k = steps - 2; k >= 0; k--) {
    const from = (k + 1) * n * n;
    firstOfInverse(predictedP, from, w, factor, n);
    for (let i = 0; i < n; i++) w[i]! *= noise[k + 1]!;
    for (let i = 1; i < n; i++) w[i]! += rows[(k + 1) * (n - 1) + i - 1]!;
    let now = filtered[k * n]! + (1 - w[0]!) * (x[0]! - predicted[k + 1]!);
    for (let i = 1; i < n; i++) now -= w[i]! * (x[i]! - filtered[k * n + i]!);
    x[0] = now;
    let whole = 0;
    for (let i = 0; i < n; i++) {
      let sum = 0;
      for (let j = 0; j < n; j++) sum += (p[i * n + j]! - predictedP[from + i * n + j]!) * w[j]!;
      spreadW[i] = sum;
      whole += w[i]! * sum;
    }
    p[0] = filteredRow[k * n]! + p[0]! - predictedP[from]! - 2 * spreadW[0]! + whole;
    for (let j = 1; j < n; j++) {
      p[j] = filteredRow[k * n + j]! + p[j]! - predictedP[from + j]! - spreadW[j]!;
      p[j * n] = p[j]!;
    }
    level[k] = x[0]!;
    deviation[k] = Math.sqrt(Math.max(0, p[0]!));
  }
  return { level, deviation, state, covariance };
}

/**
 * A⁻¹e₀ of a symmetric positive A, by its Cholesky factor.
 * @param a values of A from `from` on, row by row @param l room for the factor
 */
function firstOfInverse(a: Float64Array, from: number, out: Float64Array, l: Float64Array, n: number): void {
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = a[from + i * n + j]!;
      for (let m = 0; m < j; m++) sum -= l[i * n + m]! * l[j * n + m]!;
      l[i * n + j] = i === j ? Math.sqrt(Math.max(sum, 1e-18)) : sum / l[j * n + j]!;
    }
  out.fill(0);
  out[0] = 1;
  substitute(l, out, n);
}
