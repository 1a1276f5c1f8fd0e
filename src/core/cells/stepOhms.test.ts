/** Cells behind known resistances. */

import { seededRandom } from '../simulate/random';
import type { CellLog } from './cellLog';
import { stepOhms } from './stepOhms';

/** A load of 5 A, and of 25 A for four minutes of every ten; each cell behind so many ohms. */
function drawn(ohms: readonly number[], { noise = 0.001, step = 60_000 } = {}): CellLog {
  const random = seededRandom(5);
  const count = 1000;
  const amps = Float32Array.from({ length: count }, (_, i) => (i % 10 < 4 ? -25 : -5));
  return {
    time: Float64Array.from({ length: count }, (_, i) => i * step),
    names: ohms.map((_, k) => String(k + 1)),
    volts: ohms.map((one) => amps.map((current) => 3.3 + one * current + random.normal(0, noise))),
    amps,
    ampsOnItsClock: true,
    ampHours: null,
    ohms: 0.001,
  };
}

test('each cell within a tenth, its doubt as large as it is off', () => {
  const truth = [0.001, 0.0012, 0.003, 0.0008];
  const found = stepOhms(drawn(truth), 100)!;
  expect(found.steps).toBeGreaterThan(150);
  truth.forEach((one, k) => {
    expect(Math.abs(found.ohms[k]! / one - 1)).toBeLessThan(0.1);
    expect(Math.abs(found.ohms[k]! - one)).toBeLessThan(4 * found.errors[k]!);
  });
});

test('a current of another log, one that hardly steps, and one written too seldom tell nothing', () => {
  expect(stepOhms({ ...drawn([0.001, 0.001]), ampsOnItsClock: false }, 100)).toBeNull();
  expect(stepOhms({ ...drawn([0.001, 0.001]), amps: null }, 100)).toBeNull();
  expect(stepOhms(drawn([0.001, 0.001]), 10_000)).toBeNull();
  expect(stepOhms(drawn([0.001, 0.001], { step: 600_000 }), 100)).toBeNull();
});
