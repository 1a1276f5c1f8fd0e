/** Weighted least squares with few unknowns, and the same without minding single values that are far off. */

export interface Solution {
  values: Float64Array;
  /** One standard deviation of each. */
  errors: Float64Array;
  /** Scatter of what is left, one standard deviation, and how many rows there were. */
  scatter: number;
  rows: number;
}

/** Rows of factors with the value that they come to. Columns are arrays of one length. */
export interface Equations {
  columns: readonly Float64Array[];
  values: Float64Array;
  weights?: Float64Array;
}

/** What is known beforehand of an unknown: about this, give or take that. */
export interface Prior {
  value: number;
  deviation: number;
}

/**
 * Normal equations, solved by Cholesky. Null where the rows do not settle the unknowns.
 * @param priors one an unknown, where there are any; they count in units of the scatter that is given
 */
export function leastSquares(
  { columns, values, weights }: Equations,
  priors?: { of: readonly (Prior | null)[]; scatter: number },
): Solution | null {
  const n = columns.length;
  const rows = values.length;
  const a = new Float64Array(n * n);
  const b = new Float64Array(n);
  let total = 0;
  for (let k = 0; k < rows; k++) {
    const w = weights ? weights[k]! : 1;
    if (!(w > 0)) continue;
    total += w;
    for (let i = 0; i < n; i++) {
      const ci = columns[i]![k]! * w;
      b[i]! += ci * values[k]!;
      for (let j = 0; j <= i; j++) a[i * n + j]! += ci * columns[j]![k]!;
    }
  }
  priors?.of.forEach((prior, i) => {
    if (!prior) return;
    const w = (priors.scatter / prior.deviation) ** 2;
    a[i * n + i]! += w;
    b[i]! += w * prior.value;
  });
  const inverse = inverted(a, n);
  if (!inverse || total <= 0) return null;
  const found = new Float64Array(n);
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) found[i]! += inverse[i * n + j]! * b[j]!;
  let squares = 0;
  for (let k = 0; k < rows; k++) {
    const w = weights ? weights[k]! : 1;
    if (!(w > 0)) continue;
    let left = values[k]!;
    for (let i = 0; i < n; i++) left -= columns[i]![k]! * found[i]!;
    squares += w * left * left;
  }
  const scatter = Math.sqrt(squares / Math.max(1e-9, total - (priors ? 0 : n)));
  const errors = Float64Array.from(
    { length: n },
    (_, i) => Math.sqrt(Math.max(0, inverse[i * n + i]!)) * (priors ? priors.scatter : scatter),
  );
  return { values: found, errors, scatter, rows };
}

/** Residuals beyond so many scatters count less the further they are (Huber). */
const FAR = 1.5;
const ROUNDS = 12;

/** Least squares in which what is far off counts less (Huber's weights, some rounds), with the scatter from the middle of the residuals. */
export function robustLeastSquares(equations: Equations): Solution | null {
  const { columns, values } = equations;
  const rows = values.length;
  const given = equations.weights;
  let weights = given ? given.slice() : new Float64Array(rows).fill(1);
  let solution = leastSquares({ columns, values, weights });
  for (let round = 0; round < ROUNDS && solution; round++) {
    const left = values.map((value, k) =>
      Math.abs(value - columns.reduce((sum, column, i) => sum + column[k]! * solution!.values[i]!, 0)),
    );
    const sorted = left.filter((_, k) => !given || given[k]! > 0).sort();
    const scatter = 1.4826 * (sorted[sorted.length >> 1] ?? 0);
    if (!(scatter > 0)) break;
    weights = left.map(
      (one, k) => (given ? given[k]! : 1) * (one <= FAR * scatter ? 1 : (FAR * scatter) / one),
    );
    const next = leastSquares({ columns, values, weights });
    if (!next) break;
    const inverse = scatter / Math.max(next.scatter, 1e-12);
    const same = next.values.every(
      (one, i) => Math.abs(one - solution!.values[i]!) < 1e-6 * (1 + Math.abs(one)),
    );
    solution = { ...next, scatter, errors: next.errors.map((one) => one * Math.max(1, inverse)) };
    if (same) break;
  }
  return solution;
}

/** Inverse of a symmetric matrix of which the lower half is given; null where it has none. */
export function inverted(lower: Float64Array, n: number): Float64Array | null {
  const l = new Float64Array(n * n);
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = lower[i * n + j]!;
      for (let m = 0; m < j; m++) sum -= l[i * n + m]! * l[j * n + m]!;
      if (i === j) {
        if (!(sum > 1e-12 * Math.abs(lower[i * n + i]!)) || !(sum > 0)) return null;
        l[i * n + i] = Math.sqrt(sum);
      } else l[i * n + j] = sum / l[j * n + j]!;
    }
  const out = new Float64Array(n * n);
  for (let column = 0; column < n; column++) {
    const x = new Float64Array(n);
    x[column] = 1;
    substitute(l, x, n);
    for (let i = 0; i < n; i++) out[i * n + column] = x[i]!;
  }
  return out;
}

/** Solves L·Lᵀ·x = b in place, L a lower Cholesky factor. @param x b, and then the solution */
export function substitute(l: Float64Array, x: Float64Array, n: number): void {
  for (let i = 0; i < n; i++) {
    let sum = x[i]!;
    for (let m = 0; m < i; m++) sum -= l[i * n + m]! * x[m]!;
    x[i] = sum / l[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = x[i]!;
    for (let m = i + 1; m < n; m++) sum -= l[m * n + i]! * x[m]!;
    x[i] = sum / l[i * n + i]!;
  }
}
