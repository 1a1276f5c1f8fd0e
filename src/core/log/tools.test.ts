/** The caliper and the finder, on logs drawn by hand. */

import type { Series } from './channels';
import { findSpan, findTime, type FindRule } from './find';
import { measure, valueAt } from './measure';
import { timelineOf } from './timeline';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const START = Date.UTC(2026, 8, 21);
const column = (count: number, of: (i: number) => number) =>
  Float32Array.from({ length: count }, (_, i) => of(i));
const times = (count: number) => Float64Array.from({ length: count }, (_, i) => START + i * MINUTE);

/** Ten hours: five at +12 A and 14 V, five at −6 A and 12 V. */
const monitor: Series = {
  device: 'monitor',
  time: times(601),
  channels: {
    battery_current: column(601, (i) => (i < 300 ? 12 : -6)),
    battery_voltage: column(601, (i) => (i < 300 ? 14 : 12)),
    soc: column(601, (i) => 50 + i / 10),
  },
};
const charger: Series = {
  device: 'charger',
  time: times(601),
  channels: { source_current: column(601, (i) => (i < 300 ? 15 : 0)) },
};
const bms: Series = {
  device: 'bms',
  time: times(601),
  channels: {
    cell_01_voltage: column(601, () => 3.3),
    cell_02_voltage: column(601, (i) => 3.3 + i / 10_000),
  },
};

describe('between two moments', () => {
  test('what went in and out, in ampere-hours and watt-hours, and what stands at both ends', () => {
    const found = measure(timelineOf([monitor, charger]), { from: START + HOUR, to: START + 9 * HOUR });
    expect(found.battery!.ampHoursIn).toBeCloseTo(48, 0);
    expect(found.battery!.ampHoursOut).toBeCloseTo(24, 0);
    expect(found.battery!.wattHoursIn / 14).toBeCloseTo(48, 0);
    expect(found.battery!.wattHoursOut / 12).toBeCloseTo(24, 0);
    expect(found.battery!.meanAmps).toBeCloseTo(3, 1);
    expect(found.battery!.peakAmps).toBe(12);
    expect(found.volts).toEqual({ from: 14, to: 12 });
    expect(found.percents).toEqual([
      { device: 'monitor', from: expect.closeTo(56, 3), to: expect.closeTo(104, 3) },
    ]);
    expect(found.sources).toEqual([{ device: 'charger', ampHours: expect.closeTo(60, 0) }]);
    expect(found.spread).toBeNull();
  });
  test('a silence is not counted, and said by the hours', () => {
    const silent = {
      ...monitor,
      time: monitor.time.map((one, i) => (i < 60 ? one : one + 3 * HOUR)),
    };
    const found = measure(timelineOf([silent]), { from: START, to: START + 5 * HOUR });
    expect(found.battery!.hours).toBeCloseTo(2, 1);
    expect(found.battery!.ampHoursIn).toBeCloseTo(24, 0);
    expect(valueAt(silent, 'battery_voltage', START + 2 * HOUR)).toBeNaN();
  });
  test('the spread of the cells; without a current of the battery there is nothing of it', () => {
    const found = measure(timelineOf([bms]), { from: START, to: START + 10 * HOUR });
    expect(found.battery).toBeNull();
    expect(found.spread!.from).toBeCloseTo(0, 6);
    expect(found.spread!.to).toBeCloseTo(0.06, 4);
  });
});

describe('the next time', () => {
  const time = times(100);
  // Up to 14 at minute 10, down again at 30, up at 50 for good; a missing value on the way.
  const values = column(100, (i) => (i === 10 ? NaN : (i > 9 && i < 30) || i >= 50 ? 14 : 12));
  const next = (rule: FindRule, value: number, from = -1, holdMs = 0, way: 'next' | 'previous' = 'next') => {
    const at = findTime(time, values, { rule, value, holdMs }, START + from * MINUTE, way);
    return at === null ? null : (at - START) / MINUTE;
  };
  test('that it rises above, falls below, or jumps', () => {
    expect(next('rises-above', 13)).toBe(11);
    expect(next('rises-above', 13, 11)).toBe(50);
    expect(next('rises-above', 13, 50)).toBeNull();
    expect(next('falls-below', 13)).toBe(30);
    expect(next('jumps', 1.5, 11)).toBe(30);
    expect(next('jumps', 3)).toBeNull();
  });
  test('and the one before', () => {
    expect(next('rises-above', 13, 99, 0, 'previous')).toBe(50);
    expect(next('rises-above', 13, 50, 0, 'previous')).toBe(11);
    expect(next('rises-above', 13, 11, 0, 'previous')).toBeNull();
  });
  test('that it stays there for so long', () => {
    expect(next('stays-above', 13, -1, 25 * MINUTE)).toBe(50);
    expect(next('stays-above', 13, -1, 5 * MINUTE)).toBe(11);
    expect(next('stays-below', 13, 5, 15 * MINUTE)).toBe(30);
    expect(next('stays-below', 13, 5, 25 * MINUTE)).toBeNull();
  });
  test('from one level to another', () => {
    const slope = column(100, (i) => 14.4 - i * 0.02);
    const span = findSpan(time, slope, [14.21, 13.41], START)!;
    expect((span.from - START) / MINUTE).toBe(10);
    expect((span.to - START) / MINUTE).toBe(50);
    expect(findSpan(time, slope, [14.2, 11], START)).toBeNull();
    expect(findSpan(time, slope, [13, 14], START)).toBeNull();
  });
});
