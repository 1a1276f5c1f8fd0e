/** Drawn logs of loads beside chargers, whose currents hide and carry them. */

import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import { column, DAY, find, MINUTE } from '../../../tests/support/drawnLoads';
import { findCutOffs } from './findCutOffs';
import { loadCurrents } from './loadCurrents';

test('behind a source without a log a sun that takes the load over is none', () => {
  const time = Float64Array.from({ length: 3 * DAY }, (_, i) => i * MINUTE);
  // 5 A by night; the sun takes them over within an hour, and charges.
  const amps = (m: number) => {
    const sun = Math.max(0, Math.min(20, ((m % DAY) - 360) / 12));
    return (m % DAY < 1080 ? sun : 0) - 5;
  };
  const monitor: Series = {
    device: 'monitor',
    time,
    channels: { battery_voltage: column(() => 11.4, 3), battery_current: column(amps, 3) },
  };
  const system = {
    bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 },
    sources: [{ id: 'sun', name: 'Sun', kind: 'solar' }],
    loads: [{ id: 'pump', name: 'Pump', cutoffV: 11.5 }],
    timeZone: 'UTC',
  } as unknown as KnownSystem;
  const timeline = timelineOf([monitor]);
  expect(findCutOffs(system, timeline, loadCurrents(system, timeline, 0), null)).toEqual([]);
});

test('a load that lets go while a charger without a log runs: the battery’s current jumps by more than the charger can give', () => {
  // 90 A for an hour, 45 A of it by the charger; from then on the battery takes what the charger gives.
  const time = Float64Array.from({ length: 3 * DAY }, (_, i) => i * MINUTE);
  const into = (m: number) => (m % DAY < 300 ? 0.5 : m % DAY < 360 ? -90 : m % DAY < 600 ? 40 : 0.5);
  const volts = (m: number) => (m % DAY >= 300 && m % DAY < 360 ? 11.5 + 0.005 * (359 - (m % DAY)) : 13.2);
  const of = (ratedA: number | undefined) => {
    const system = {
      bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 },
      sources: [{ id: 'charger', ratedA }],
      loads: [{ id: 'pump', name: 'Pump', counted: true, cutoffV: 11.5 }],
      timeZone: 'UTC',
    } as unknown as KnownSystem;
    const channels = { battery_voltage: column(volts, 3), battery_current: column(into, 3) };
    const timeline = timelineOf([{ device: 'monitor', time, channels }]);
    return findCutOffs(system, timeline, loadCurrents(system, timeline, 0), null);
  };
  expect(of(45).map((one) => [one.at / MINUTE, one.by, one.why])).toEqual(
    [360, 360 + DAY, 360 + 2 * DAY].map((at) => [at, 'pump', 'volts']),
  );
  // A charger that can give 130 A may have begun, and carries the load now.
  expect(of(130)).toEqual([]);
  expect(of(undefined)).toEqual([]);
});

test('what vanishes where a charger begins to give is carried by it', () => {
  // The monitor shows half of what flows: the load that is told by both vanishes as the charger begins.
  const time = Float64Array.from({ length: 5 * DAY }, (_, i) => i * MINUTE);
  const on = (m: number) => m % DAY >= 600 && m % DAY < 900;
  const of = (shown: (m: number) => number, given: (m: number) => number) => {
    const system = {
      bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 },
      sources: [{ id: 'charger' }],
      loads: [{ id: 'pump', name: 'Pump', counted: true }],
      timeZone: 'UTC',
    } as unknown as KnownSystem;
    const timeline = timelineOf([
      {
        device: 'monitor',
        time,
        channels: {
          battery_voltage: column(
            (m) => (on(m) ? 13 : m % DAY < 600 ? 12.6 - (0.5 * (m % DAY)) / 600 : 12.8),
            5,
          ),
          battery_current: column(shown, 5),
        },
      },
      { device: 'charger', time, channels: { source_current: column(given, 5) } },
    ]);
    return findCutOffs(system, timeline, loadCurrents(system, timeline, 0), null);
  };
  expect(
    of(
      (m) => (on(m) ? 20 : -4),
      (m) => (on(m) ? 20 : 0),
    ),
  ).toEqual([]);
});

test('runs after which the rest is drawn on have ended by themselves, though a charger without a log hides the loads by day', () => {
  // By night half an ampere, and 2.5 A for three minutes now and then, at one voltage; by day the charger carries all.
  const time = Float64Array.from({ length: 5 * DAY }, (_, i) => i * MINUTE);
  const isNight = (m: number) => m % DAY < 360;
  const starts = (m: number) =>
    [20, 56, 113, 158, 222, 291].map((at) => at + ((13 * Math.floor(m / DAY)) % 17));
  const runs = (m: number) => starts(m).some((at) => m % DAY >= at && m % DAY < at + 3);
  const of = (rest: number) => {
    const channels = {
      battery_voltage: column((m) => (isNight(m) ? (runs(m) ? 12.52 : 12.56) : 13.8), 5),
      battery_current: column((m) => (isNight(m) ? -rest - (runs(m) ? 2 : 0) : 1), 5),
    };
    const system = {
      bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 120 },
      sources: [{ id: 'charger', ratedA: 12 }],
      loads: [{ id: 'pump', name: 'Pump', counted: true }],
      timeZone: 'UTC',
    } as unknown as KnownSystem;
    const timeline = timelineOf([{ device: 'monitor', time, channels }]);
    return findCutOffs(system, timeline, loadCurrents(system, timeline, 0), null).length;
  };
  expect(of(0.3)).toBe(0);
  // Where nothing is left, one voltage again and again is a limit.
  expect(of(0)).toBeGreaterThan(3);
});

test('a battery that takes more than a load draws rises past the load’s limit: the load was switched off', () => {
  const ended = (draws: number, perMinute: number) =>
    find(
      {
        amps: (m) => (m % DAY >= 600 && m % DAY < 620 ? draws : 0.1),
        given: (m) => (m % DAY >= 600 && m % DAY < 900 ? 15 : 0),
        volts: (m) => (m % DAY < 600 || m % DAY >= 620 ? 12.2 : 11.45 + perMinute * ((m % DAY) - 619)),
      },
      { cutoffV: 11.5 },
      { days: 3 },
    ).map((one) => (one.at / MINUTE) % DAY);
  expect(ended(4, 0.01)).toEqual([]);
  expect(ended(25, -0.01)).toEqual([620, 620, 620]);
});
