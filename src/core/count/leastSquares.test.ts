/** Least squares against a published data set, and its ways with priors, weights and values that are far off. */

import { linearRegression } from 'simple-statistics';
import { inverted, leastSquares, robustLeastSquares } from './leastSquares';

/** NIST StRD, data set Norris, lower difficulty: y and x. */
const NORRIS: readonly (readonly [number, number])[] = [
  [0.1, 0.2],
  [338.8, 337.4],
  [118.1, 118.2],
  [888.0, 884.6],
  [9.2, 10.1],
  [228.1, 226.5],
  [668.5, 666.3],
  [998.5, 996.3],
  [449.1, 448.6],
  [778.9, 777.0],
  [559.2, 558.2],
  [0.3, 0.4],
  [0.1, 0.6],
  [778.1, 775.5],
  [668.8, 666.9],
  [339.3, 338.0],
  [448.9, 447.5],
  [10.8, 11.6],
  [557.7, 556.0],
  [228.3, 228.1],
  [998.0, 995.8],
  [888.8, 887.6],
  [119.6, 120.2],
  [0.3, 0.3],
  [0.6, 0.3],
  [557.6, 556.8],
  [339.3, 339.1],
  [888.0, 887.2],
  [998.5, 999.0],
  [778.9, 779.0],
  [10.2, 11.1],
  [117.6, 118.3],
  [228.9, 229.2],
  [668.4, 669.1],
  [449.2, 448.9],
  [0.2, 0.5],
];
const x = Float64Array.from(NORRIS, (one) => one[1]);
const y = Float64Array.from(NORRIS, (one) => one[0]);
const ones = new Float64Array(NORRIS.length).fill(1);

test('slope, intercept and scatter of NIST Norris', () => {
  const { values, scatter } = leastSquares({ columns: [x, ones], values: y })!;
  expect(values[0]).toBeCloseTo(1.00211681802045, 9);
  expect(values[1]).toBeCloseTo(-0.262323073774029, 7);
  expect(scatter).toBeCloseTo(0.884796396144373, 8);
});

test('errors are those of the text book: scatter times the root of the inverse’s diagonal', () => {
  const { errors, scatter } = leastSquares({ columns: [x, ones], values: y })!;
  const n = x.length;
  const mean = x.reduce((a, b) => a + b, 0) / n;
  const spread = x.reduce((a, b) => a + (b - mean) ** 2, 0);
  expect(errors[0]).toBeCloseTo(scatter / Math.sqrt(spread), 12);
  expect(errors[1]).toBeCloseTo(scatter * Math.sqrt(1 / n + mean ** 2 / spread), 10);
});

test('a fifth of the values far off do not bend the robust line; the plain one follows them (simple-statistics)', () => {
  const bent = y.map((one, k) => (k % 5 === 0 ? one + 400 : one));
  const robust = robustLeastSquares({ columns: [x, ones], values: bent })!;
  expect(robust.values[0]).toBeCloseTo(1.002, 1);
  expect(Math.abs(robust.values[1]!)).toBeLessThan(15);
  const plain = linearRegression(Array.from(x, (one, k) => [one, bent[k]!]));
  const ours = leastSquares({ columns: [x, ones], values: bent })!;
  expect(ours.values[0]).toBeCloseTo(plain.m, 9);
  expect(ours.values[1]).toBeCloseTo(plain.b, 7);
  expect(ours.values[1]!).toBeGreaterThan(60);
});

test('weights of nothing leave rows out', () => {
  const bent = y.map((one, k) => (k < 6 ? one - 500 : one));
  const weights = Float64Array.from(bent, (_, k) => (k < 6 ? 0 : 1));
  const left = leastSquares({ columns: [x, ones], values: bent, weights })!;
  const cut = leastSquares({ columns: [x.slice(6), ones.slice(6)], values: y.slice(6) })!;
  expect(left.values[0]).toBeCloseTo(cut.values[0]!, 12);
});

test('a prior decides where the rows say nothing, and gives way where they do', () => {
  const nothing = new Float64Array(x.length);
  const priors = { of: [null, { value: 3, deviation: 0.5 }], scatter: 1 };
  expect(leastSquares({ columns: [x, nothing], values: y }, priors)!.values[1]).toBeCloseTo(3, 9);
  expect(leastSquares({ columns: [x, nothing], values: y })).toBeNull();
  const strong = leastSquares({ columns: [x, ones], values: y }, priors)!;
  expect(Math.abs(strong.values[1]! + 0.26)).toBeLessThan(1);
});

test('the inverse times the matrix is one', () => {
  const matrix = [4, 1, 2, 1, 3, 0.5, 2, 0.5, 5];
  const inverse = inverted(Float64Array.from(matrix), 3)!;
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 3; j++) {
      let sum = 0;
      for (let k = 0; k < 3; k++) sum += matrix[i * 3 + k]! * inverse[k * 3 + j]!;
      expect(sum).toBeCloseTo(i === j ? 1 : 0, 12);
    }
  expect(inverted(Float64Array.from([1, 1, 1, 1]), 2)).toBeNull();
});
