/** A zero that counting is unsure of: taken off the battery's current, it would be a load that goes on after a cut-off took everything. */

import type { Counting } from '../count/types';
import type { KnownSystem } from '../system/known';
import { timelineOf } from '../log/timeline';
import { column, DAY, MINUTE } from '../../../tests/support/drawnLoads';
import { cutOffsOf } from './cutOffs';

test('cut-offs that take all loads are found, whatever zero counting takes for possible', () => {
  // 2 A all the time, 150 A from 23:30 until the limit takes everything away at 23:39 for 45 minutes.
  const days = 6;
  const runs = (m: number) => m % DAY >= 1390 && m % DAY < 1399;
  const isOff = (m: number) => m % DAY >= 1399 || (m >= DAY && m % DAY < 5);
  const channels = {
    battery_voltage: column((m) => (runs(m) ? 11.76 + 0.02 * (1398 - (m % DAY)) : 12.5), days),
    battery_current: column((m) => (isOff(m) ? 0 : runs(m) ? -150 : -2) + 0.1 * (((m * 7) % 3) - 1), days),
  };
  const system = {
    bank: { chemistry: 'flooded', cellsInSeries: 6, capacityAh: 280, capacityHours: 20 },
    sources: [{ id: 'sun', kind: 'solar', counted: true, profile: {} }],
    loads: [{ id: 'load', name: 'Load', kind: 'dc', counted: true, cutoffV: 11.6 }],
    monitor: { method: 'shunt' },
    timeZone: 'UTC',
  } as unknown as KnownSystem;
  const time = Float64Array.from({ length: days * DAY }, (_, i) => i * MINUTE);
  const charger = { device: 'sun', time, channels: { source_current: column(() => 0, days) } };
  const timeline = timelineOf([{ device: 'monitor', time, channels }, charger]);
  const cuts = (value: number, deviation: number) => {
    const counting = {
      offsetA: { value, deviation },
      course: { grid: { from: 0, step: MINUTE, count: 0, cuts: [] } },
    } as unknown as Counting;
    return cutOffsOf(system, timeline, counting).list.map((one) => [
      one.by,
      one.why,
      (one.at / MINUTE) % DAY,
    ]);
  };
  const daily = Array.from({ length: days }, () => ['load', 'volts', 1399]);
  expect(cuts(0, 0.1)).toEqual(daily);
  expect(cuts(0.9, 0.6)).toEqual(daily);
  // Of a zero that it is sure of, what is left is a load that stays on.
  expect(cuts(0.9, 0.1)).not.toEqual(daily);
});

test('of one load among several what its own runs took was not delivered; of the first hours of a log nothing is known', () => {
  // 2 A all the time, 40 A more from six in the morning for 20 min and more, until the voltage is at the limit.
  const days = 4;
  const minutes = (m: number) => 20 + 7 * Math.floor(m / DAY);
  const left = (m: number) => 360 + minutes(m) - 1 - (m % DAY);
  const runs = (m: number) => m % DAY >= 360 && left(m) >= 0;
  const time = Float64Array.from({ length: days * DAY }, (_, i) => i * MINUTE);
  const system = {
    bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 200, capacityHours: 20 },
    sources: [],
    loads: [{ id: 'load', name: 'Load', kind: 'dc', counted: true, cutoffV: 11.5 }],
    timeZone: 'UTC',
  } as unknown as KnownSystem;
  const logs = [
    {
      device: 'monitor',
      time,
      channels: {
        battery_voltage: column((m) => (runs(m) ? 11.55 + 0.01 * left(m) : 12.6), days),
        battery_current: column((m) => (runs(m) ? -42 : -2), days),
      },
    },
    { device: 'load', time, channels: { load_current: column((m) => (runs(m) ? 42 : 2), days) } },
  ];
  const [first, second] = cutOffsOf(system, timelineOf(logs), null).list;
  expect(first!.missedWh).toBeNaN();
  // Worked by hand: 27 min of 42 A in the day before, spread over that day, for the time that it was off.
  const hours = (second!.back - second!.at) / 3_600_000;
  expect(second!.missedWh / (((42 * 27) / 60 / 24) * second!.volts * hours)).toBeCloseTo(1, 1);
});
