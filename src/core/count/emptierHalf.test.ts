/** A bank is as full as its emptier half: a simulated site whose monitor sees the better one, and states set down by hand. */

import { countedSite } from '../../../tests/support/countedSites';
import { mean, quantile } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { emptierOf, otherHalfOf } from './emptierHalf';
import type { Reference } from './reference';

test('the state of a bank is that of the half that is charged too little, though the monitor sees the other', () => {
  const { counting, trueAt } = countedSite('half-bank-1');
  const { from, stepMs, reference, band, reported } = counting.hourly;
  const truth = Array.from(reference, (_, k) => trueAt(from + k * stepMs));
  const off = (some: Float32Array) =>
    quantile(
      truth.map((one, k) => Math.abs(some[k]! - one)),
      0.9,
    );
  expect(off(reported)).toBeGreaterThan(25);
  expect(off(reference)).toBeLessThan(8);
  expect(mean(truth.map((one, k) => (Math.abs(reference[k]! - one) <= band[k]! ? 1 : 0)))).toBeGreaterThan(
    0.95,
  );
  expect(counting.otherHalf!.part).toBe('upper');
  expect(counting.otherHalf!.above).toBeGreaterThan(4);
});

const reference = (percent: (k: number) => number, deviation = 3) =>
  ({
    grid: { from: 0, step: HOUR, count: 48, cuts: [] },
    percent: Float64Array.from({ length: 48 }, (_, k) => percent(k)),
    deviation: new Float64Array(48).fill(deviation),
  }) as unknown as Reference;

test('at each moment the emptier of the two, with its own deviation', () => {
  const found = emptierOf(
    reference((k) => 90 - k, 2),
    reference(() => 70, 5),
  );
  expect([found.percent[0], found.deviation[0]]).toEqual([70, 5]);
  expect([found.percent[47], found.deviation[47]]).toEqual([43, 2]);
});

test('by how much the seen half stands above the other, in the middle and at last; nothing where one is not known', () => {
  const seen = reference(() => 80);
  const other = reference((k) => 60 - k / 4);
  const half = otherHalfOf('lower', seen, other)!;
  expect(half).toMatchObject({ part: 'lower', hours: 48, at: 48 * HOUR, seen: 80, other: 60 - 47 / 4 });
  expect(half.above).toBeCloseTo(20 + 23.5 / 4, 1);
  expect(
    otherHalfOf(
      'lower',
      seen,
      reference(() => 60, 12),
    ),
  ).toBeNull();
});
