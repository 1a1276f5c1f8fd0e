/** Drops that take with them what else was drawn, packs that are drained, and days that are alike. */

import { timelineOf } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import { column, DAY, type Drawn, find, MINUTE } from '../../../tests/support/drawnLoads';
import { findCutOffs } from './findCutOffs';
import { loadCurrents } from './loadCurrents';

describe('a run as long as others that ends near its limit', () => {
  // 30 A for an hour four times a day beside 2 A; the last run of the day sinks to 11.6 or 11.66 V, the limit is 11.5 V.
  const run = (m: number) => m % 360 >= 100 && m % 360 < 160;
  const last = (m: number) => m % DAY >= 1080;
  const isAfter = (m: number) => m % 360 >= 160 && m % 360 < 250;
  const high = (m: number) => 12.2 + 0.06 * ((Math.floor(m / 360) * 5) % 7);
  const volts = (m: number) =>
    run(m) ? (last(m) ? 11.6 + 0.06 * Math.floor(m / DAY) + 0.005 * (159 - (m % 360)) : high(m)) : 12.7;
  const drawn = (rest: (m: number) => number): Drawn => ({
    amps: (m) => rest(m) + (run(m) ? 30 : 0),
    volts,
  });
  const cuts = (rest: (m: number) => number) => find(drawn(rest), { cutoffV: 11.5 });

  test('was cut where the other loads are gone with it', () => {
    const found = cuts((m) => (last(m) && isAfter(m) ? 0 : 2));
    expect(found.map((one) => [one.by, one.why])).toEqual(Array.from({ length: 2 }, () => ['pump', 'volts']));
  });
  test('has ended by itself where they go on, or are gone after every run', () => {
    expect(cuts(() => 2)).toEqual([]);
    expect(cuts((m) => (isAfter(m) ? 0 : 2))).toEqual([]);
  });
});

test('lithium whose cells are not logged was let go by its BMS at what that lets cells down to, though a load’s limit is far above', () => {
  // Two amperes by day, down to a voltage in the evening; nothing by night.
  const drawn = (end: number): Drawn => ({
    amps: (m) => (m % DAY < 1000 ? 2 : 0),
    volts: (m) => (m % DAY < 1000 ? end + 0.01 * Math.max(0, 999 - (m % DAY)) : end),
  });
  const cuts = (end: number) =>
    find(drawn(end), { cutoffV: 12 }, { days: 3, chemistry: 'lfp' }).map((one) => [one.by, one.why]);
  expect(cuts(10.2)).toEqual(Array.from({ length: 3 }, () => ['bms', 'cell-low']));
  expect(cuts(10.9)).toEqual([]);
});

test('days that are alike: runs of one length that end just over their limit were cut, where they sink through what the wiring loses in a small part of their time', () => {
  // 50 A for 51 minutes each midnight beside 1 A, down to 11.64 V.
  const ends = 51;
  const cuts = (perMinute: number) =>
    find(
      {
        amps: (m) => 1 + (m % DAY >= 1 && m % DAY < ends ? 50 : 0),
        volts: (m) => (m % DAY < ends ? 11.64 + perMinute * (ends - 1 - (m % DAY)) : 12.6),
      },
      { cutoffV: 11.6 },
      { days: 6 },
    ).length;
  expect(cuts(0.012)).toBe(6);
  // So slowly it would stand within the wiring's loss for most of its time.
  expect(cuts(0.003)).toBe(0);
});

test('a bus that goes dead while little was drawn, or just before a charger begins, was let go by the BMS', () => {
  // Two amperes, or a half, that nobody logged beside a charger without a log; the BMS opens at 600, the charger begins soon after.
  const time = Float64Array.from({ length: 3 * DAY }, (_, i) => i * MINUTE);
  const isDead = (m: number) => m % DAY >= 600 && m % DAY < 606;
  const cuts = (amps: number, dead: number) => {
    const channels = {
      battery_voltage: column((m) => (isDead(m) ? dead : m % DAY < 600 ? 10.6 : 13.3), 3),
      battery_current: column((m) => (isDead(m) ? 0 : m % DAY < 600 ? -amps : 20), 3),
    };
    const system = {
      bank: { chemistry: 'lfp', cellsInSeries: 4, capacityAh: 100 },
      sources: [{ id: 'charger', ratedA: 30 }],
      loads: [{ id: 'pump', name: 'Pump', counted: true, cutoffV: 10 }],
      bms: { cellLowV: 2.6 },
      timeZone: 'UTC',
    } as unknown as KnownSystem;
    const timeline = timelineOf([{ device: 'monitor', time, channels }]);
    return findCutOffs(system, timeline, loadCurrents(system, timeline, 0), null).map((one) => [
      one.at / MINUTE,
      one.by,
      one.why,
    ]);
  };
  const each = [600, 600 + DAY, 600 + 2 * DAY].map((at) => [at, 'bms', 'cell-low']);
  for (const amps of [0.5, 2]) expect(cuts(amps, 0)).toEqual(each);
  expect(cuts(0.5, 10.6)).toEqual([]);
});
