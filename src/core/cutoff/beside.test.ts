/** What stands beside a cut-off: the strip about it, what was promised before, what was not delivered, and near misses. */

import { LEAD_MONITOR } from '../../../tests/support/counterSettings';
import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { knownSystem } from '../system/known';
import type { System } from '../system/schema';
import { cutOffsOf } from './cutOffs';

const MINUTE = 60_000;
const HOUR = 60;

const system = (cutoffV: number) =>
  knownSystem({
    name: 'Drawn',
    timeZone: 'UTC',
    bank: {
      chemistry: 'agm',
      cellsInSeries: 6,
      stringsInParallel: 1,
      capacityAh: 100,
      capacityHours: 20,
      chargeVolts: { min: 14.2, max: 14.6 },
    },
    sources: [],
    monitor: LEAD_MONITOR,
    loads: [{ id: 'pump', name: 'Pump', kind: 'dc', cutoffV, counted: true }],
  } as unknown as System)!;

/** Two days by the minute: 5 A with a pause each other hour, and the voltage as it is given; off for two hours from noon of the second day. */
function logs(volts: (minute: number) => number): Series[] {
  const count = 48 * HOUR;
  const off = (i: number) => i >= 36 * HOUR && i < 38 * HOUR;
  const drawn = (i: number) => (off(i) ? 0 : Math.floor(i / HOUR) % 2 === 1 ? 5 : 3);
  const time = Float64Array.from({ length: count }, (_, i) => i * MINUTE);
  const battery = Float32Array.from(time, (_, i) => volts(i));
  return [
    {
      device: 'monitor',
      time,
      channels: {
        battery_voltage: battery,
        battery_current: Float32Array.from(time, (_, i) => -drawn(i)),
        soc: Float32Array.from(time, (_, i) => 90 - i / HOUR),
      },
    },
    {
      device: 'pump',
      time,
      channels: {
        load_current: Float32Array.from(time, (_, i) => drawn(i)),
        load_voltage: battery.map((one) => one - 0.1),
      },
    },
  ];
}

/** Falls to the limit at noon of the second day. */
const falling = (i: number) =>
  i < 36 * HOUR ? 12.4 - (0.9 * Math.max(0, i - 34 * HOUR)) / (2 * HOUR) : 12.3;

test('a strip of ten minutes on either side, each value held until the next', () => {
  const { list } = cutOffsOf(system(11.4), timelineOf(logs(falling)), null);
  expect(list).toHaveLength(1);
  const { at, around } = list[0]!;
  expect(around!.from).toBe(at - 10 * MINUTE);
  expect(around!.volts).toHaveLength(81);
  expect(around!.loadAmps![0]).toBe(5);
  expect(around!.loadAmps![80]).toBe(0);
  expect(around!.volts![38]! - around!.loadVolts![38]!).toBeCloseTo(0.1, 4);
  // Between two samples a minute apart it is the earlier one.
  expect(around!.volts![1]).toBe(around!.volts![0]);
  expect(around!.lowestCell).toBeNull();
});

test('a blast of seconds shows in the strip, however short', () => {
  const time = Float64Array.from({ length: 7200 }, (_, i) => i * 1000);
  const blast = (i: number) => i >= 3600 && i < 3603;
  const { list } = cutOffsOf(
    system(11.4),
    timelineOf([
      {
        device: 'pump',
        time,
        channels: {
          load_current: Float32Array.from(time, (_, i) => (i >= 3603 ? 0 : blast(i) ? 70 : 2)),
          load_voltage: Float32Array.from(time, (_, i) => (blast(i) ? 11.2 : 12.5)),
        },
      },
    ]),
    null,
  );
  expect(list).toHaveLength(1);
  expect(Math.max(...list[0]!.around!.loadAmps!)).toBe(70);
  expect(Math.min(...list[0]!.around!.loadVolts!)).toBeCloseTo(11.2, 4);
});

test('what the reading promised: what was left down to the floor, at the current of an hour before', () => {
  const [one] = cutOffsOf(system(11.4), timelineOf(logs(falling)), null).list;
  // At 11 in the morning it shows 55 %: 5 Ah above the floor of 50 %, with 3 A and 5 A on either side of the hour.
  expect(one!.promisedHours).toBeCloseTo(5 / 4, 1);
});

test('what was not delivered: the mean of the day before, for as long as it was off', () => {
  const [one] = cutOffsOf(system(11.4), timelineOf(logs(falling)), null).list;
  expect(one!.missedWh).toBeCloseTo(4 * 2 * one!.loadVolts, 0);
});

test('near a limit and back is a near miss; what led to the cut-off is none', () => {
  const dips = (i: number) => (i >= 10 * HOUR && i < 10 * HOUR + 20 ? 11.62 : falling(i));
  const { nearMisses, list } = cutOffsOf(system(11.4), timelineOf(logs(dips)), null);
  expect(list).toHaveLength(1);
  expect(nearMisses).toHaveLength(1);
  expect(nearMisses[0]).toMatchObject({ by: 'pump', limit: 11.4 });
  expect(nearMisses[0]!.volts).toBeCloseTo(11.52, 3);
});

test('far above its limit a load never nearly went off', () => {
  expect(cutOffsOf(system(10.8), timelineOf(logs(() => 12.4)), null)).toMatchObject({
    list: [],
    nearMisses: [],
  });
});
