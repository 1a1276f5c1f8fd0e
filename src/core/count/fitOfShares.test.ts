/** Two chargers that take turns, beside what the monitor shows of them. */

import { seededRandom } from '../simulate/random';
import { fitOfShares } from './fitOfShares';

/**
 * One charger gives 3 A more as the other gives 2 A less; where a load of 5 A comes or goes meanwhile, whichever holds the voltage answers it.
 * @param seen how much of each the monitor shows
 */
function fitted(seen: readonly [number, number]) {
  const random = seededRandom(5);
  const rows = Array.from({ length: 100 }, (_, row) => {
    const turn = row % 2 === 0 ? 1 : -1;
    const steps = [3 * turn + random.normal(0, 0.1), -2 * turn + random.normal(0, 0.1)] as const;
    const load = row % 4 === 0 ? 5 * turn : 0;
    const value = seen[0] * steps[0] + seen[1] * steps[1] + random.normal(0, 0.1);
    const answers = row % 8 < 4 ? 0 : 1;
    return { steps: steps.map((one, k) => (k === answers ? one + load : one)), value };
  });
  return fitOfShares(
    [0, 1].map((k) => Float64Array.from(rows, ({ steps }) => steps[k]!)),
    Float64Array.from(rows, ({ value }) => value),
  )!;
}

test('both are seen, though a load that either answers comes at every fourth turn', () => {
  for (const one of fitted([1, 1]).values) expect(Math.abs(one - 1)).toBeLessThan(0.25);
});

test('one is seen and the other is not', () => {
  const { values } = fitted([1, 0]);
  expect(Math.abs(values[0]! - 1)).toBeLessThan(0.25);
  expect(Math.abs(values[1]!)).toBeLessThan(0.25);
});

test('both are seen by a sensor that is turned round', () => {
  for (const one of fitted([-1, -1]).values) expect(Math.abs(one + 1)).toBeLessThan(0.25);
});

test('where nothing disturbs the steps any ratio comes out', () => {
  const columns = [Float64Array.of(3, -4, 1, 6, -2, 5), Float64Array.of(1, 2, -3, 1, 4, -2)];
  const { values } = fitOfShares(
    columns,
    columns[0]!.map((one, row) => 0.6 * (one + columns[1]![row]!)),
  )!;
  expect(values[0]).toBeCloseTo(0.6, 6);
  expect(values[1]).toBeCloseTo(0.6, 6);
});
