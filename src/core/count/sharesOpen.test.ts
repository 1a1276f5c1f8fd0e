import { seededRandom } from '../simulate/random';
import { AS_ONE, openByOthers, partsAlone } from './sharesOpen';

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

test('where another takes over what a charger lets go, its share hangs on whether the other is seen', () => {
  // The other answers a load that comes and goes as well: its own steps would have it not seen at all.
  const own = Float64Array.of(-1.4, -1.1, -1.4, -1.2, -1.4, -1.2);
  const other = Float64Array.of(0.9, 0.2, 1.3, 0.5, 0.9, 0.4);
  const values = own.map((one, row) => one + [0.9, 0.7, 0.9, 0.8, 0.9, 0.8][row]!);
  const shares = Float64Array.of(0.36, 0);
  expect(openByOthers([own, other], values, shares, [true, false])[0]).toBeGreaterThan(0.3);
  expect(openByOthers([own, other], values, shares, [true, true])).toEqual([0, 0]);
});
