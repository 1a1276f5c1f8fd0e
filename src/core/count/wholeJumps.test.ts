import { MINUTE } from '../quantity/span';
import { withWholeJumps } from './wholeJumps';

const whole = (...reading: number[]) =>
  Array.from(
    withWholeJumps(
      Float32Array.from(reading),
      Float64Array.from(reading, (_, i) => i * MINUTE),
      null,
    ),
  );

test('a row between two steps of one jump goes to where the jump ends, up or down', () => {
  expect(whole(80, 80.5, 81, 96, 100, 100, 100)).toEqual([80, 80.5, 81, 100, 100, 100, 100]);
  expect(whole(70, 70, 52, 50, 50)).toEqual([70, 70, 50, 50, 50]);
});

test('a jump in one step, a climb that goes on, a spike and rows that are missing stay as they are', () => {
  for (const rows of [
    [80, 80.5, 100, 100, 100, 100],
    [80, 82, 84, 86, 88, 90],
    [80, 80, 90, 80, 80, 80],
    [80, 80, NaN, 96, 100, 100],
    [80, 80.2, 80.6, 81.2, 81.4, 81.6],
  ])
    expect(whole(...rows)).toEqual(rows.map(Math.fround));
  const time = Float64Array.from([0, 1, 2, 90, 91, 92, 93], (at) => at * MINUTE);
  const silent = Float32Array.from([81, 81, 81, 96, 100, 100, 100]);
  expect(withWholeJumps(silent, time, null)).toBe(silent);
});

test('two steps that what flows accounts for were counted', () => {
  // Rows of ten minutes: 65 A are 5.4 points of 200 Ah in each.
  const reading = Float32Array.of(88.2, 88.1, 88.3, 93.5, 98.9, 100, 100);
  const time = Float64Array.from(reading, (_, i) => 10 * i * MINUTE);
  const with65 = (charged: number) => ({
    amps: Float32Array.of(-1.5, -1.5, 56, charged, charged, -1.4, -1.6),
    capacityAh: 200,
  });
  expect(withWholeJumps(reading, time, with65(65))).toBe(reading);
  const idle = { amps: new Float32Array(7).fill(-1.5), capacityAh: 200 };
  expect(withWholeJumps(reading, time, idle)[3]).toBeCloseTo(98.9, 4);
});
