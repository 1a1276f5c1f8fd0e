import { timelineOf } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import { column, DAY, MINUTE } from '../../../tests/support/drawnLoads';
import { dropsOf } from './drops';
import { loadCurrents } from './loadCurrents';
import type { Moment } from './moment';

/** Minutes of the day at which 5 A fall to nothing behind a sun without a log. @param into what it gives, A, by minutes from six o'clock on */
function dropsBehind(into: (minute: number) => number): number[] {
  const battery = (minute: number) => Math.max(0, into((minute % DAY) - 360)) - 5;
  const timeline = timelineOf([
    {
      device: 'monitor',
      time: Float64Array.from({ length: 2 * DAY }, (_, i) => i * MINUTE),
      channels: { battery_current: column(battery, 2) },
    },
  ]);
  const system = {
    bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 },
    sources: [{ id: 'sun', name: 'Sun', kind: 'solar' }],
    loads: [{ id: 'pump', name: 'Pump' }],
  } as unknown as KnownSystem;
  return loadCurrents(system, timeline, 0)
    .flatMap((load) => dropsOf(load, 100, () => ({}) as Moment))
    .map((one) => (one.at / MINUTE) % DAY);
}

test('a sun that takes the load over slowly, and charges within the hour, is no drop; what falls at once and comes later is', () => {
  const dawn = (takesOver: (minute: number) => number, from: number) => (minute: number) =>
    minute < from ? Math.min(takesOver(minute), 4.4) : 4.4 + (minute - from) / 5;
  const slowly = (minute: number) => 0.15 * minute;
  expect(dropsBehind(dawn(slowly, 65))).toEqual([]);
  expect(dropsBehind(dawn(slowly, 120))).toHaveLength(2);
  expect(dropsBehind(dawn((minute) => (minute < 5 ? 0 : 4.4), 65))).toEqual([365, 365]);
});

test('what falls by more than a source without a log can give is a drop, though that source charges soon after', () => {
  // 18 A let go at six in the morning; a sun of so many amperes charges from ten minutes later on.
  const drops = (ratedA: number) => {
    const into = (m: number) => (m % DAY < 360 ? -18 : m % DAY < 370 ? 0 : m % DAY < 900 ? 3 : -18);
    const timeline = timelineOf([
      {
        device: 'monitor',
        time: Float64Array.from({ length: 2 * DAY }, (_, i) => i * MINUTE),
        channels: { battery_current: column(into, 2) },
      },
    ]);
    const system = {
      bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 },
      sources: [{ id: 'sun', name: 'Sun', kind: 'solar', ratedA }],
      loads: [{ id: 'pump', name: 'Pump' }],
    } as unknown as KnownSystem;
    return loadCurrents(system, timeline, 0)
      .flatMap((load) => dropsOf(load, 100, () => ({}) as Moment))
      .map((one) => (one.at / MINUTE) % DAY);
  };
  expect(drops(4)).toEqual([360, 360]);
  expect(drops(20)).toEqual([]);
});

test('a mean over the sample in which a load let go is no current of its run, and no drop before it', () => {
  // 160 A for a quarter of an hour, and 1 A of other loads all along; the last row of a run is the mean of both.
  const drops = (halfway: number) => {
    const drawn = (m: number) =>
      m % DAY >= 600 && m % DAY < 615 ? 161 : m % DAY === 615 ? 1 + halfway * 160 : 1;
    const timeline = timelineOf([
      {
        device: 'monitor',
        time: Float64Array.from({ length: 2 * DAY }, (_, i) => i * MINUTE),
        channels: { battery_current: column((m) => -drawn(m), 2) },
      },
    ]);
    const system = {
      bank: { chemistry: 'lfp', cellsInSeries: 4, capacityAh: 280 },
      sources: [],
      loads: [{ id: 'inverter', name: 'Inverter' }],
    } as unknown as KnownSystem;
    return loadCurrents(system, timeline, 0)
      .flatMap((load) => dropsOf(load, 280, () => ({}) as Moment))
      .filter((one) => one.amps > 10)
      .map((one) => [(one.at / MINUTE) % DAY, one.amps, one.ranMs / MINUTE]);
  };
  expect(drops(0)).toEqual([
    [615, 161, 15],
    [615, 161, 15],
  ]);
  // Of 40 % of the minute: a minute later, and by the current of the run.
  for (const [at, amps, minutes] of drops(0.4)) expect([at, amps, minutes]).toEqual([616, 161, 16]);
  expect(drops(0.4)).toHaveLength(2);
});
