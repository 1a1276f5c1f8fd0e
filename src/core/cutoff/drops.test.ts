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
