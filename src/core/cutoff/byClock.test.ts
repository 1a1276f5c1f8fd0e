/** Drawn logs: a load on a beat of its own is switched by a clock, however alike its runs end. */

import { DAY, type Drawn, find } from '../../../tests/support/drawnLoads';
import { endOnTime } from './byClock';
import type { Drop } from './drops';

/** Runs of 25 minutes, each down to 12.3 V. @param begins minutes of the day */
function runs(begins: readonly number[]): Drawn {
  const ran = (m: number) => Math.min(...begins.map((at) => m - at).filter((since) => since >= 0));
  return {
    amps: (m) => (ran(m % DAY) < 25 ? 8 : 0),
    volts: (m) => (ran(m % DAY) < 25 ? 12.6 - 0.0125 * (ran(m % DAY) + 1) : 12.7),
  };
}

test('every ninety minutes, as long by day as by night', () => {
  const begins = (from: number) => Array.from({ length: 16 }, (_, i) => from + 90 * i);
  expect(find(runs(begins(10)), {}, { days: 3 })).toEqual([]);
  // The log begins within a run.
  expect(find(runs([-10, ...begins(80)]), {}, { days: 3 })).toEqual([]);
});

test('what comes back as the battery recovers, sooner while the sun shines, was cut', () => {
  const begins = [10, 130, 250, 370, 440, 510, 580, 650, 720, 790, 910, 1030, 1150, 1270, 1390];
  const found = find(runs(begins), {}, { days: 3 });
  expect(found.length).toBeGreaterThan(30);
  expect(found.every((one) => one.why === 'volts')).toBe(true);
});

test('runs that begin and end at one time each day, and end higher than limits lie, were ended by a clock', () => {
  const daily = (minutes: (day: number) => number, end: number, from = 100): Drawn => {
    const since = (m: number) => m - from + DAY;
    const day = (m: number) => Math.floor(since(m) / DAY);
    const left = (m: number) => minutes(day(m)) - (since(m) % DAY);
    const about = (m: number) => end + 0.01 * (day(m) % 2);
    return {
      amps: (m) => (left(m) > 0 ? 8 : 0),
      volts: (m) => (left(m) > 0 ? about(m) + 0.005 * left(m) : 12.9),
    };
  };
  const count = (of: Drawn) => find(of, {}, { days: 7 }).length;
  expect(count(daily(() => 43, 12.3))).toBe(0);
  expect(count(daily((day) => 43 - 6 * (day % 4), 12.3))).toBe(7);
  expect(count(daily(() => 43, 11.9))).toBe(7);
  // Begins that lie on both sides of midnight are as near to each other as any.
  const jitter = daily((day) => 43 + (day % 2), 12.3, DAY - 1);
  expect(count({ ...jitter, amps: (m) => jitter.amps(m + (Math.floor(m / DAY) % 2)) })).toBe(0);
});

test('ends at one time of the day are a clock’s where the runs began at others', () => {
  const MINUTE = 60_000;
  /** A run of each of eight days, in minutes of the day. */
  const ended = (begins: (day: number) => number, ends: (day: number) => number) =>
    Array.from(
      { length: 8 },
      (_, day) =>
        ({
          at: (day * DAY + ends(day)) * MINUTE,
          ranMs: (ends(day) - begins(day)) * MINUTE,
          beginSeen: true,
        }) as Drop,
    );
  const count = (some: Drop[]) => endOnTime(some, MINUTE).size;
  // Back from its limit after nine o’clock, sooner or later, for what is left of its hour.
  expect(
    count(
      ended(
        (day) => 541 + 3 * (day % 5),
        () => 556,
      ),
    ),
  ).toBe(8);
  // Ends that lie over ten minutes meet by chance: a limit ended runs of one to nine minutes.
  expect(
    count(
      ended(
        (day) => 541 + 3 * (day % 5),
        (day) => 549 + ((day * 3) % 8),
      ),
    ),
  ).toBe(0);
  // A limit ends what began at one time within a minute, or as long after each begin.
  expect(
    count(
      ended(
        () => 480,
        (day) => 489 + (day % 2),
      ),
    ),
  ).toBe(0);
  expect(
    count(
      ended(
        (day) => 541 + 3 * (day % 5),
        (day) => 547 + 3 * (day % 5),
      ),
    ),
  ).toBe(0);
});

test('of rows that are written seldom the time of the day is all that shows: what goes off at one of them, high, was ended by a clock', () => {
  // From six on; until about one, or until the battery is down, sooner or later by hours.
  const night = (until: (day: number) => number, end: number): Drawn => {
    const into = (m: number) => (m + 6 * 60) % DAY;
    const day = (m: number) => Math.floor((m + 6 * 60) / DAY);
    const left = (m: number) => until(day(m)) - into(m);
    const about = (m: number) => end + 0.01 * (day(m) % 2);
    return {
      amps: (m) => (left(m) > 0 ? 8 : 0),
      volts: (m) => (left(m) > 0 ? about(m) + 0.001 * left(m) : 12.9),
    };
  };
  const count = (of: Drawn) => find(of, {}, { days: 9, every: 30 }).length;
  expect(count(night((day) => 420 + 4 * (day % 3), 12.3))).toBe(0);
  expect(count(night((day) => 420 + 90 * (day % 4), 12.3))).toBeGreaterThan(6);
  expect(count(night((day) => 420 + 4 * (day % 3), 11.9))).toBeGreaterThan(6);
});
