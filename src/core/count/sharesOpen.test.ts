import { seededRandom } from '../simulate/random';
import { AS_ONE, partsAlone } from './sharesOpen';

/** Steps of two controllers under the same clouds, A, with what their meters tremble by; the second is changed in some rows. */
function parts(changed: Record<number, number>): number[] {
  const random = seededRandom(7);
  const first = Float64Array.from({ length: 60 }, () => random.normal(0, 4));
  const second = first.map((one, row) => 0.8 * one + random.normal(0, 0.02) + (changed[row] ?? 0));
  return partsAlone([first, second]);
}

test('two controllers on one roof move as one', () => {
  for (const part of parts({})) expect(part).toBeLessThan(AS_ONE);
});

test('a slip of a meter, a step there and one back, makes them no two', () => {
  for (const part of parts({ 20: 12, 21: -12, 40: -9, 41: 9 })) expect(part).toBeLessThan(AS_ONE);
});

test('one that is off for a while, again and again, moves by itself', () => {
  const off = Object.fromEntries(Array.from({ length: 8 }, (_, k) => [7 * k, k % 2 ? 3 : -3]));
  for (const part of parts(off)) expect(part).toBeGreaterThan(AS_ONE);
});

test('what stands alone has all its steps for itself', () => {
  expect(partsAlone([Float64Array.of(3, -2, 4)])).toEqual([1]);
});
