/** Days, balances and trust: what is gathered for all causes. */

import { HOUR, MINUTE } from '../quantity/span';
import type { Series } from '../log/channels';
import { batteryCurrent, timelineOf } from '../log/timeline';
import { demoSite } from '../simulate/demo';
import { observe } from './observe';

const { system } = demoSite('tide-gauge');
/** Midnight in Rome, the day before clocks go back. */
const START = Date.UTC(2026, 9, 23, 22);

function steady(device: string, minutes: number, channels: Record<string, number>): Series {
  return {
    device,
    time: Float64Array.from({ length: minutes }, (_, i) => START + i * MINUTE),
    channels: Object.fromEntries(
      Object.entries(channels).map(([channel, value]) => [channel, new Float32Array(minutes).fill(value)]),
    ),
  };
}

test('without logs nothing is seen', () => {
  expect(observe(system, [])).toEqual({
    batteries: [],
    span: null,
    charging: [],
    counting: null,
    cutoffs: null,
    cells: null,
    days: [],
    refusals: null,
    hazards: [],
    balance: null,
    trust: [],
  });
});

test('days are those of the site’s clock: the day on which clocks go back has 25 hours', () => {
  const { days } = observe(system, [
    steady('monitor', 3 * 1440 + 60, { battery_voltage: 12.4, battery_current: -2 }),
  ]);
  expect(days.map((day) => day.date)).toEqual(['2026-10-24', '2026-10-25', '2026-10-26']);
  expect(days.map((day) => (day.to - day.from) / HOUR)).toEqual([24, 25, 24]);
  expect(days[0]!.ampHoursOut).toBeCloseTo(48, 1);
  expect(days[1]!.ampHoursOut).toBeCloseTo(50, 1);
  expect(days[1]!.hours).toBeCloseTo(25, 1);
  expect(days.every((day) => day.reached === 'nothing')).toBe(true);
});

test('where only the charger logs, what it gives less its loads goes into the battery', () => {
  const charger = steady('solar', 1440, { source_voltage: 13, source_current: 7, load_current: 3 });
  const { amps } = batteryCurrent(timelineOf([charger]))!;
  expect(amps[10]).toBe(4);
  const [day] = observe(system, [charger]).days;
  expect(day!.ampHoursIn).toBeCloseTo(96, 0);
  const monitor = steady('monitor', 1440, { battery_voltage: 13, battery_current: 5 });
  expect(batteryCurrent(timelineOf([charger, monitor]))!.amps[10]).toBe(5);
  expect(batteryCurrent(timelineOf([steady('solar', 10, { source_current: 7 })]))).toBeNull();
});

test('nobody logged the battery’s current: the balance is not known, not zero', () => {
  const [day] = observe(system, [steady('solar', 1440, { source_voltage: 13, source_current: 7 })]).days;
  expect(day!.ampHoursIn).toBeNaN();
});

test('gaps are told with their length, and their hours are not counted', () => {
  const log = steady('monitor', 1440, { battery_voltage: 12.4, battery_current: -2 });
  const kept = (_: number, i: number) => i < 300 || i >= 600;
  const gappy: Series = {
    ...log,
    time: log.time.filter(kept),
    channels: {
      battery_voltage: log.channels.battery_voltage!.filter(kept),
      battery_current: log.channels.battery_current!.filter(kept),
    },
  };
  const { trust, days } = observe(system, [gappy]);
  expect(trust).toHaveLength(1);
  expect(trust[0]).toMatchObject({ code: 'gaps', devices: ['monitor'] });
  expect(trust[0]!.text).toMatch(/silent for 5 h 01 min in 1 gap/);
  expect(days[0]!.hours).toBeCloseTo(19, 1);
  expect(days[0]!.ampHoursOut).toBeCloseTo(38, 0);
});
