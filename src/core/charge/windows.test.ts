import fc from 'fast-check';
import { linearRegression, standardDeviation } from 'simple-statistics';
import { MOST_WINDOW, runningSums, shapeOf } from './windows';

/** Clouds, climbs and held voltages, for so many minutes. */
const minutes = (count: number) => ({
  volts: Float32Array.from({ length: count }, (_, m) => 13.2 + ((m % 360) / 300) ** 2 + Math.sin(m / 3) / 5),
  amps: Float32Array.from({ length: count }, (_, m) => 20 * Math.exp(-(m % 360) / 60) + 3 * Math.sin(m / 3)),
});

test('a window has the line and the spread that another library finds', () => {
  const { volts, amps } = minutes(3 * MOST_WINDOW);
  const sums = runningSums(volts, amps, 12.5);
  fc.assert(
    fc.property(fc.nat(3 * MOST_WINDOW - 100), fc.integer({ min: 5, max: 99 }), (from, size) => {
      const cells = Array.from({ length: size }, (_, i) => from + i);
      const shape = shapeOf(sums, from, from + size)!;
      const line = linearRegression(cells.map((k) => [k - from, volts[k]!]));
      expect(shape.drift).toBeCloseTo(line.m * size, 6);
      expect(shape.ampSpread).toBeCloseTo(standardDeviation(cells.map((k) => amps[k]!)), 6);
      expect(shape.slope).toBeCloseTo(linearRegression(cells.map((k) => [amps[k]!, volts[k]!])).m, 5);
    }),
  );
});

test('the minutes of a third year are seen as those of the first, to the last digit', () => {
  const count = 1_500_000;
  const { volts, amps } = minutes(count);
  const late = runningSums(volts, amps, 12.5);
  for (const from of [count - 50, count - 400, 1_400_010, 1_400_832]) {
    const alone = runningSums(volts.slice(from, from + 45), amps.slice(from, from + 45), 12.5);
    const here = shapeOf(alone, 0, 45)!;
    const there = shapeOf(late, from, from + 45)!;
    for (const key of ['drift', 'scatter', 'ampSpread', 'slope'] as const)
      expect([key, there[key]]).toEqual([key, expect.closeTo(here[key], 7)]);
  }
});

test('cells without voltage or current are left out, and too few say nothing', () => {
  const { volts, amps } = minutes(60);
  for (let k = 10; k < 40; k++) (k % 2 ? volts : amps)[k] = NaN;
  const sums = runningSums(volts, amps, 12.5);
  expect(shapeOf(sums, 12, 24)).toBeNull();
  expect(shapeOf(sums, 0, 12)).not.toBeNull();
});
