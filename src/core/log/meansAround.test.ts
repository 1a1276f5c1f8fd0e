import { MINUTE } from '../quantity/span';
import { meansAround } from './meansAround';

const time = Float64Array.from({ length: 61 }, (_, i) => i * MINUTE);
const at = (...minutes: number[]) => Float64Array.from(minutes, (one) => one * MINUTE);

test('the mean from half way to the row before until half way to the row after', () => {
  // Ten amperes for five minutes in the hour, between the rows at 20 and 40.
  const burst = Float32Array.from(time, (_, i) => (i >= 31 && i < 36 ? 10 : 0));
  const means = meansAround(time, burst, at(0, 20, 40, 60));
  expect(means[1]).toBe(0);
  expect(means[2]).toBeCloseTo(50 / 20, 5);
  // Rows that lie even apart lose nothing of what flowed.
  expect(means.reduce((sum, one) => sum + one * 20, 0)).toBeCloseTo(50, 4);
});

test('rows as often as the samples get the line between them; in gaps nothing is known', () => {
  const rising = Float32Array.from(time, (_, i) => i);
  expect([...meansAround(time, rising, at(2, 2.5, 3.5))]).toEqual([2, 2.5, 3.5]);
  const gapped = time.map((ms) => (ms > 30 * MINUTE ? ms + 300 * MINUTE : ms));
  const means = meansAround(gapped, rising, at(10, 100, 340));
  expect(means[0]).toBeGreaterThan(5);
  expect(means[1]).toBeNaN();
  expect(means[2]).toBeGreaterThan(30);
});
