/** Where the current of a load falls to nothing, seen from the battery alone: drawn days. */

import { timelineOf } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import { column, DAY, MINUTE } from '../../../tests/support/drawnLoads';
import { type Drop, dropsOf } from './drops';
import { loadCurrents } from './loadCurrents';
import type { Moment } from './moment';

/** Drops over two days. @param into A into the battery at a minute of the day @param sources that nobody logged */
function drops(into: (minute: number) => number, sources: object[], capacityAh = 100): Drop[] {
  const timeline = timelineOf([
    {
      device: 'monitor',
      time: Float64Array.from({ length: 2 * DAY }, (_, i) => i * MINUTE),
      channels: { battery_current: column((minute) => into(minute % DAY), 2) },
    },
  ]);
  const system = {
    bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh },
    sources,
    loads: [{ id: 'pump', name: 'Pump' }],
  } as unknown as KnownSystem;
  return loadCurrents(system, timeline, 0).flatMap((load) => dropsOf(load, capacityAh, () => ({}) as Moment));
}
const minuteOf = ({ at }: Drop): number => (at / MINUTE) % DAY;
const sun = { id: 'sun', name: 'Sun', kind: 'solar' };

test('a sun that takes the load over slowly, and charges within the hour, is no drop; what falls at once and comes later is', () => {
  // 5 A by night, and what the sun gives by minutes from six o'clock on.
  const behind = (gives: (minute: number) => number) =>
    drops((minute) => Math.max(0, gives(minute - 360)) - 5, [sun]).map(minuteOf);
  const dawn = (takesOver: (minute: number) => number, from: number) => (minute: number) =>
    minute < from ? Math.min(takesOver(minute), 4.4) : 4.4 + (minute - from) / 5;
  const slowly = (minute: number) => 0.15 * minute;
  expect(behind(dawn(slowly, 65))).toEqual([]);
  expect(behind(dawn(slowly, 120))).toHaveLength(2);
  expect(behind(dawn((minute) => (minute < 5 ? 0 : 4.4), 65))).toEqual([365, 365]);
});

test('what falls by more than a source without a log can give is a drop, though that source charges soon after', () => {
  // 18 A let go at six in the morning; the sun charges from ten minutes later on.
  const into = (m: number) => (m < 360 ? -18 : m < 370 ? 0 : m < 900 ? 3 : -18);
  expect(drops(into, [{ ...sun, ratedA: 4 }]).map(minuteOf)).toEqual([360, 360]);
  expect(drops(into, [{ ...sun, ratedA: 20 }])).toEqual([]);
});

test('a mean over the sample in which a load let go is no current of its run, and no drop before it', () => {
  // 160 A for a quarter of an hour, and 1 A of other loads all along; the last row of a run is the mean of both.
  const ends = (halfway: number) =>
    drops((m) => (m >= 600 && m < 615 ? -161 : m === 615 ? -1 - halfway * 160 : -1), [], 280)
      .filter((one) => one.amps > 10)
      .map((one) => [minuteOf(one), one.amps, one.ranMs / MINUTE]);
  const twice = (one: number[]) => [one, one];
  expect(ends(0)).toEqual(twice([615, 161, 15]));
  // Of 40 % of the minute: a minute later, and by the current of the run.
  expect(ends(0.4)).toEqual(twice([616, 161, 16]));
});

test('a row that is missing does not part a run, and after a hole its begin is not known', () => {
  // Ten ampere from ten to twenty to; on the first day one row is missing, on the second half an hour.
  const system = { bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 }, sources: [], loads: [] };
  const isMissing = (m: number) => m === 20 || (m >= DAY && m % DAY < 25);
  const timeline = timelineOf([
    {
      device: 'monitor',
      time: Float64Array.from({ length: 2 * DAY }, (_, i) => i * MINUTE),
      channels: {
        battery_current: column((m) => (isMissing(m) ? NaN : m % DAY >= 10 && m % DAY < 40 ? -10 : 0), 2),
      },
    },
  ]);
  const found = loadCurrents(system as unknown as KnownSystem, timeline, 0).flatMap((load) =>
    dropsOf(load, 100, () => ({}) as Moment),
  );
  expect(found.map(({ ranMs, beginSeen }) => [ranMs / MINUTE, beginSeen])).toEqual([
    [30, true],
    [15, false],
  ]);
});
