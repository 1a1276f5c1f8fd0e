/**
 * A Kalman filter and the smoother behind it (Rauch, Tung and Striebel, AIAA Journal 3, 1965) for one quantity that moves and a few
 * constants that say how: x[0] changes from step to step by a row of known factors times x, the others stay what they are.
 */

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
  // The filter forward: of each step the state before and after its measurements.
  const predicted = new Float64Array(steps * n);
  const predictedP = new Float64Array(steps * n * n);
  const filtered = new Float64Array(steps * n);
  const filteredP = new Float64Array(steps * n * n);
  const gain = new Float64Array(n);
  const column = new Float64Array(n);
  let next = 0;
  let evidence = 0;
  for (let k = 0; k < steps; k++) {
    move(x, p, n, drive[k]!, rows, k * (n - 1), noise[k]!);
    predicted.set(x, k * n);
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
    filteredP.set(p, k * n * n);
  }
  return { ...backward(motion, predicted, predictedP, filtered, filteredP), evidence };
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
  // P = F P Fᵀ, F the unit matrix but for its first row.
  for (let j = 0; j < n; j++) {
    let sum = p[j]!;
    for (let i = 1; i < n; i++) sum += rows[at + i - 1]! * p[i * n + j]!;
    p[j] = sum;
  }
  for (let i = 0; i < n; i++) {
    let sum = p[i * n]!;
    for (let j = 1; j < n; j++) sum += rows[at + j - 1]! * p[i * n + j]!;
    p[i * n] = sum;
  }
  p[0]! += noise;
}

function backward(
  { steps, size: n, rows }: Motion,
  predicted: Float64Array,
  predictedP: Float64Array,
  filtered: Float64Array,
  filteredP: Float64Array,
): Omit<Smoother, 'evidence'> {
  const level = new Float64Array(steps);
  const deviation = new Float64Array(steps);
  const x = filtered.slice((steps - 1) * n);
  const p = filteredP.slice((steps - 1) * n * n);
  const state = x.slice();
  const covariance = Array.from({ length: n }, (_, i) => p.slice(i * n, (i + 1) * n));
  level[steps - 1] = x[0]!;
  deviation[steps - 1] = Math.sqrt(Math.max(0, p[0]!));
  const cross = new Float64Array(n * n);
  const back = new Float64Array(n * n);
  const difference = new Float64Array(n);
  const spread = new Float64Array(n * n);
  const half = new Float64Array(n * n);
  for (let k = steps - 2; k >= 0; k--) {
    const from = (k + 1) * n * n;
    // P of this step times Fᵀ of the next.
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) {
        let sum = filteredP[k * n * n + i * n + j]!;
        if (j === 0)
          for (let m = 1; m < n; m++)
            sum += filteredP[k * n * n + i * n + m]! * rows[(k + 1) * (n - 1) + m - 1]!;
        cross[i * n + j] = sum;
      }
    solveSymmetric(predictedP.subarray(from, from + n * n), cross, back, n);
    for (let i = 0; i < n; i++) difference[i] = x[i]! - predicted[(k + 1) * n + i]!;
    for (let i = 0; i < n * n; i++) spread[i] = p[i]! - predictedP[from + i]!;
    for (let i = 0; i < n; i++) {
      let sum = filtered[k * n + i]!;
      for (let j = 0; j < n; j++) sum += back[i * n + j]! * difference[j]!;
      x[i] = sum;
    }
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) {
        let sum = 0;
        for (let m = 0; m < n; m++) sum += back[i * n + m]! * spread[m * n + j]!;
        half[i * n + j] = sum;
      }
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) {
        let sum = filteredP[k * n * n + i * n + j]!;
        for (let m = 0; m < n; m++) sum += half[i * n + m]! * back[j * n + m]!;
        p[i * n + j] = sum;
      }
    level[k] = x[0]!;
    deviation[k] = Math.sqrt(Math.max(0, p[0]!));
  }
  return { level, deviation, state, covariance };
}

/** X with X·A = B for a symmetric positive A, by its Cholesky factor; rows of B one by one. */
function solveSymmetric(a: Float64Array, b: Float64Array, out: Float64Array, n: number): void {
  const l = new Float64Array(n * n);
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = a[i * n + j]!;
      for (let m = 0; m < j; m++) sum -= l[i * n + m]! * l[j * n + m]!;
      l[i * n + j] = i === j ? Math.sqrt(Math.max(sum, 1e-18)) : sum / l[j * n + j]!;
    }
  for (let row = 0; row < n; row++) {
    const at = row * n;
    for (let i = 0; i < n; i++) {
      let sum = b[at + i]!;
      for (let m = 0; m < i; m++) sum -= l[i * n + m]! * out[at + m]!;
      out[at + i] = sum / l[i * n + i]!;
    }
    for (let i = n - 1; i >= 0; i--) {
      let sum = out[at + i]!;
      for (let m = i + 1; m < n; m++) sum -= l[m * n + i]! * out[at + m]!;
      out[at + i] = sum / l[i * n + i]!;
    }
  }
}
