/** Rows by which a device's clock is late. Drawn, so that the answer is known. */

import { seededRandom } from '../simulate/random';
import { rowsLate, rowsSooner } from './rowsLate';

const CELLS = 2000;
/** Clouds that come and go, A. */
const random = seededRandom(3);
const skies = Array.from({ length: CELLS }, () => random.uniform(4, 20));
const sun = Float32Array.from({ length: CELLS }, (_, i) => skies[i >> 1]!);
const load = (i: number) => ((i * 31) % 89 < 20 ? 6 : 1);
/** What a monitor shows that sees so much of the sun, so many rows sooner than the sun's own log. */
const shown = (part: number, sooner = 0) =>
  Float32Array.from(sun, (_, i) => part * (sun[i + sooner] ?? NaN) - load(i));

test('none where both write at one time, or the monitor sees none of it', () => {
  expect(rowsLate(sun, shown(1), 2)).toBe(0);
  expect(rowsLate(sun, shown(0, 1), 2)).toBe(0);
});

test('as many as the monitor shows its steps sooner or later', () => {
  expect(rowsLate(sun, shown(1, 1), 2)).toBe(1);
  expect(rowsLate(sun, shown(0.6, 2), 2)).toBe(2);
  expect(rowsLate(sun, shown(1, -1), 2)).toBe(-1);
});

test('none for one that is seen the wrong way round, or whose steps only loads answer', () => {
  expect(rowsLate(sun, shown(-1), 2)).toBe(0);
  expect(rowsLate(sun, shown(-0.8, 1), 2)).toBe(0);
  // What comes and goes every few rows is as much the other way round two rows on.
  const pump = Float32Array.from({ length: CELLS }, (_, i) => (i % 4 < 2 ? 10 : 0));
  const reversed = pump.map((one) => -one);
  expect(rowsLate(pump, reversed, 2)).toBe(0);
});

test('few steps tell nothing', () => {
  const once = sun.map((one, i) => (i < 300 ? one : 8));
  const seen = Float32Array.from(once, (_, i) => once[i + 1] ?? NaN);
  expect(rowsLate(once, seen, 2)).toBe(1);
  expect(rowsLate(once.subarray(294), seen.subarray(294), 2)).toBe(0);
});

test('the current is then had so many rows sooner', () => {
  const three = Float32Array.from([1, 2, 3]);
  expect([...rowsSooner(three, 1)]).toEqual([2, 3, NaN]);
  expect([...rowsSooner(three, -1)]).toEqual([NaN, 1, 2]);
  expect(rowsSooner(three, 0)).toBe(three);
});
