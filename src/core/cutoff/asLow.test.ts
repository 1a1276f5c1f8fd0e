/** A load that is drawn again while the battery stands as low as when it ended. Drawn, so that the answer is known. */

import { DAY, type Drawn, judge } from '../../../tests/support/drawnLoads';

const DAYS = 8;
/**
 * 40 A in the evening for a time that differs from night to night, down to 11.3 V, and again some minutes later for a quarter of an hour.
 * @param rests V at which the battery stands meanwhile. @param later minutes from the first run's end until the second begins
 */
const twice = (rests: number, later = 30, again = 15): Drawn => {
  const long = (day: number) => 20 + 3 * (day % 5);
  const runOf = (m: number): number | null => {
    const at = (m % DAY) - 60;
    const first = long(Math.floor(m / DAY));
    if (at >= 0 && at < first) return first - at;
    const second = at - first - later;
    return second >= 0 && second < again ? again - second : null;
  };
  const hasRun = (m: number) => m % DAY >= 60 && m % DAY < 6 * 60;
  return {
    amps: (m) => (runOf(m) === null ? 0 : 40),
    volts: (m) => {
      const left = runOf(m);
      return left === null ? (hasRun(m) ? rests : 12.7) : Math.min(rests, 11.3 + 0.02 * (left - 1));
    },
    given: () => 0,
  };
};
const count = (drawn: Drawn, cutoffV?: number) => judge(drawn, { cutoffV }, { days: DAYS }).list.length;

test('what comes back and runs on with the battery as low as it ended was switched off', () => {
  expect(count(twice(11.35))).toBe(0);
});

test('what waits until the battery has recovered was cut, and so was what only tries again', () => {
  expect(count(twice(12.2))).toBeGreaterThanOrEqual(DAYS);
  expect(count(twice(11.35, 30, 2))).toBeGreaterThanOrEqual(DAYS);
});

test('where a limit is known it was reached, however soon the load is back', () => {
  expect(count(twice(11.35), 11.3)).toBeGreaterThanOrEqual(DAYS);
});

test('hours later the battery is in another state', () => {
  expect(count(twice(11.35, 180))).toBeGreaterThanOrEqual(DAYS);
});
