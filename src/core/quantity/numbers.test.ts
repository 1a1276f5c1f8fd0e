import fc from 'fast-check';
import * as oracle from 'simple-statistics';
import { seededRandom } from '../simulate/random';
import {
  fitLine,
  interpolate,
  mean,
  median,
  quantile,
  relativeSpread,
  robustDeviation,
  solveRising,
  theilSen,
} from './numbers';

const numbers = fc.array(fc.double({ min: -1e4, max: 1e4, noNaN: true }), { minLength: 3, maxLength: 50 });

test('mean, median and line fit agree with simple-statistics', () => {
  fc.assert(
    fc.property(numbers, numbers, (xs, ys) => {
      expect(mean(xs)).toBeCloseTo(oracle.mean(xs), 6);
      expect(median(xs)).toBeCloseTo(oracle.median(xs), 6);
      const n = Math.min(xs.length, ys.length);
      const x = xs.slice(0, n).map((one, i) => one + i * 1e-3);
      const y = ys.slice(0, n);
      if (oracle.standardDeviation(x) < 1) return;
      const { m, b } = oracle.linearRegression(x.map((one, i) => [one, y[i]!]));
      const fit = fitLine(x, y);
      expect(fit.slope).toBeCloseTo(m, 4);
      expect(fit.intercept / (1 + Math.abs(b))).toBeCloseTo(b / (1 + Math.abs(b)), 4);
    }),
  );
});

test('quantiles are those of the sorted values, whatever their order and however often they repeat', () => {
  const random = seededRandom(5);
  for (let run = 0; run < 200; run++) {
    const values = Array.from({ length: 1 + Math.floor(random.next() * 40) }, () =>
      random.next() < 0.5 ? Math.round(random.normal(0, 3)) : random.normal(0, 3),
    );
    const sorted = [...values].sort((a, b) => a - b);
    for (const q of [0, 0.02, 0.5, 0.77, 1]) {
      const at = q * (sorted.length - 1);
      const low = Math.floor(at);
      const high = sorted[Math.min(low + 1, sorted.length - 1)]!;
      expect(quantile(values, q)).toBeCloseTo(sorted[low]! + (high - sorted[low]!) * (at - low), 12);
    }
  }
});

test('quantiles interpolate and pass over what is missing', () => {
  expect(quantile([4, 1, NaN, 3, 2], 0.25)).toBe(1.75);
  expect(median([])).toBeNaN();
  expect(mean(new Float32Array([1, NaN, 3]))).toBe(2);
});

test('robust spread ignores a few outliers', () => {
  const values = [60, 61, 60, 59, 60, 61, 59, 12];
  expect(robustDeviation(values)).toBeLessThan(1.5);
  expect(relativeSpread(values)).toBeLessThan(0.03);
  expect(relativeSpread([5])).toBeNaN();
});

test('Theil–Sen keeps the slope of the many', () => {
  const x = [0, 1, 2, 3, 4, 5, 6];
  const y = x.map((one) => 3 * one + 1);
  y[3] = 400;
  expect(theilSen(x, y)).toBeCloseTo(3, 9);
});

test('a rising function is solved to the tolerance, also on a steep exponential', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.01, max: 1.99, noNaN: true }), (x) => {
      const f = (one: number) => Math.exp(11 * one) + one;
      expect(solveRising(f, f(x), 0, 2)).toBeCloseTo(x, 6);
    }),
  );
  expect(solveRising((x) => x, -5, 0, 1)).toBe(0);
  expect(solveRising((x) => x, 5, 0, 1)).toBe(1);
});

test('a table is held beyond its ends', () => {
  const table = [
    [0, 1],
    [10, 2],
  ] as const;
  expect([interpolate(table, -3), interpolate(table, 5), interpolate(table, 30)]).toEqual([1, 1.5, 2]);
  expect(interpolate(table, NaN)).toBeNaN();
});
