/** Small numerics used all over the core: order statistics, robust spread, line fits. No allocation in the inner loops that matter. */

export function clamp(value: number, low: number, high: number): number {
  return value < low ? low : value > high ? high : value;
}

/** Sum of finite values; NaN counts as missing. */
export function sum(values: ArrayLike<number>): number {
  let total = 0;
  for (let i = 0; i < values.length; i++) if (values[i]! === values[i]!) total += values[i]!;
  return total;
}

/** Mean of finite values, NaN when there are none. */
export function mean(values: ArrayLike<number>): number {
  let total = 0;
  let count = 0;
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (value === value) {
      total += value;
      count++;
    }
  }
  return count === 0 ? NaN : total / count;
}

/**
 * Quantile of finite values with linear interpolation between order statistics (type 7, as R and numpy do by default).
 * @param q fraction, 0 to 1. @returns NaN when there are no finite values.
 */
export function quantile(values: ArrayLike<number>, q: number): number {
  const known = new Float64Array(values.length);
  let count = 0;
  for (let i = 0; i < values.length; i++) if (values[i]! === values[i]!) known[count++] = values[i]!;
  if (count === 0) return NaN;
  const at = clamp(q, 0, 1) * (count - 1);
  const low = Math.floor(at);
  select(known, count, low);
  if (low + 1 >= count) return known[low]!;
  // What lies behind the selected is no smaller: the next is the least of it.
  let next = Infinity;
  for (let i = low + 1; i < count; i++) if (known[i]! < next) next = known[i]!;
  return known[low]! + (next - known[low]!) * (at - low);
}

/** Puts the k-th smallest of the first `count` values at k, none larger before it and none smaller behind it (Hoare's selection). */
function select(values: Float64Array, count: number, k: number): void {
  let left = 0;
  let right = count - 1;
  while (left < right) {
    const pivot = values[(left + right) >> 1]!;
    let i = left;
    let j = right;
    while (i <= j) {
      while (values[i]! < pivot) i++;
      while (values[j]! > pivot) j--;
      if (i <= j) {
        const swapped = values[i]!;
        values[i++] = values[j]!;
        values[j--] = swapped;
      }
    }
    if (k <= j) right = j;
    else if (k >= i) left = i;
    else return;
  }
}

export const median = (values: ArrayLike<number>): number => quantile(values, 0.5);

/** Standard deviation as judged from the median absolute deviation (× 1.4826, exact for a normal distribution). */
export function robustDeviation(values: ArrayLike<number>): number {
  const middle = median(values);
  return 1.4826 * median(Array.from(values, (v) => Math.abs(v - middle)));
}

/** Robust spread relative to the median: 0.05 means "repeats within 5 %". NaN for fewer than two values. */
export function relativeSpread(values: ArrayLike<number>): number {
  if (values.length < 2) return NaN;
  return robustDeviation(values) / Math.abs(median(values));
}

export interface LineFit {
  slope: number;
  intercept: number;
  /** Residual standard deviation, n − 2 degrees of freedom. */
  residualDeviation: number;
  slopeError: number;
  interceptError: number;
  count: number;
}

/**
 * Ordinary least squares of y on x, computed about the means for accuracy.
 * @returns NaN fields when fewer than three points or no spread in x.
 */
export function fitLine(x: ArrayLike<number>, y: ArrayLike<number>): LineFit {
  const n = Math.min(x.length, y.length);
  const meanX = mean(x);
  const meanY = mean(y);
  let xx = 0;
  let xy = 0;
  for (let i = 0; i < n; i++) {
    xx += (x[i]! - meanX) ** 2;
    xy += (x[i]! - meanX) * (y[i]! - meanY);
  }
  const slope = n < 3 || xx === 0 ? NaN : xy / xx;
  const intercept = meanY - slope * meanX;
  let squares = 0;
  for (let i = 0; i < n; i++) squares += (y[i]! - intercept - slope * x[i]!) ** 2;
  const residualDeviation = Math.sqrt(squares / (n - 2));
  return {
    slope,
    intercept,
    residualDeviation,
    slopeError: residualDeviation / Math.sqrt(xx),
    interceptError: residualDeviation * Math.sqrt(1 / n + meanX ** 2 / xx),
    count: n,
  };
}

/** Theil–Sen slope: the median of all pairwise slopes. Fine for up to a few hundred points. NaN when x has no spread. */
export function theilSen(x: ArrayLike<number>, y: ArrayLike<number>): number {
  const slopes: number[] = [];
  for (let i = 0; i < x.length; i++)
    for (let j = i + 1; j < x.length; j++) {
      const dx = x[j]! - x[i]!;
      if (dx !== 0) slopes.push((y[j]! - y[i]!) / dx);
    }
  return median(slopes);
}

/**
 * Where a rising function reaches a value: regula falsi with the Illinois step, inside a bracket.
 * @returns x to within `tolerance`; an end of the bracket when the value lies beyond it.
 */
export function solveRising(
  f: (x: number) => number,
  value: number,
  low: number,
  high: number,
  tolerance = 1e-7,
): number {
  let a = low;
  let b = high;
  let fa = f(a) - value;
  let fb = f(b) - value;
  if (fa >= 0) return a;
  if (fb <= 0) return b;
  let side = 0;
  for (let i = 0; i < 100 && b - a > tolerance; i++) {
    // Now and then halve: on a steep exponential the secant alone creeps.
    const x = i % 4 === 3 ? (a + b) / 2 : (a * fb - b * fa) / (fb - fa);
    const fx = f(x) - value;
    if (Math.abs(fx) < 1e-9) return x;
    if (fx < 0) {
      a = x;
      fa = fx;
      if (side === -1) fb /= 2;
      side = -1;
    } else {
      b = x;
      fb = fx;
      if (side === 1) fa /= 2;
      side = 1;
    }
  }
  return (a + b) / 2;
}

/** Piecewise-linear look-up in a table of [x, y] rows with rising x; held constant beyond its ends. */
export function interpolate(table: ReadonlyArray<readonly [number, number]>, x: number): number {
  const first = table[0]!;
  if (!(x > first[0])) return x === x ? first[1] : NaN;
  for (let i = 1; i < table.length; i++) {
    const [x1, y1] = table[i]!;
    const [x0, y0] = table[i - 1]!;
    if (x <= x1) return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
  }
  return table[table.length - 1]![1];
}

/** Neither missing nor infinite. */
export const isNumber = (value: number): boolean => Number.isFinite(value);
