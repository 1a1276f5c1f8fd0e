/** What a meter can tell apart, by what it has shown. */

import { seededRandom } from '../simulate/random';
import { lastDigit, resolutionOf } from './resolution';

const random = seededRandom(3);
/** A sun of up to 12 A. */
const sun = Float32Array.from(
  { length: 2000 },
  (_, i) => 12 * Math.abs(Math.sin(i / 90)) + random.normal(0, 0.05),
);
const inSteps = (of: Float32Array, step: number) => of.map((one) => Math.round(one / step) * step);

test.each([0.1, 0.5, 1])('a meter that shows %s A is seen to', (step) => {
  expect(lastDigit(inSteps(sun, step))).toBeCloseTo(step, 4);
});

test('a meter that shows everything has no last digit', () => {
  expect(lastDigit(sun)).toBe(0);
});

test('a load that is on or off shows no digit: five amperes are what it draws', () => {
  expect(lastDigit(Float32Array.from({ length: 2000 }, (_, i) => (i % 50 < 20 ? 5 : 0)))).toBe(0);
  // Two of them beside each other, 5 and 8 A.
  const two = Float32Array.from({ length: 2000 }, (_, i) => (i % 50 < 20 ? 5 : 0) + (i % 77 < 30 ? 8 : 0));
  expect(lastDigit(two)).toBe(0);
});

test('the noise of a rounded meter is at least that of its rounding', () => {
  const { quantum, noise } = resolutionOf(inSteps(sun, 0.5));
  expect(quantum).toBeCloseTo(0.5, 4);
  expect(noise).toBeGreaterThan(0.5 / Math.sqrt(12) - 1e-6);
});
