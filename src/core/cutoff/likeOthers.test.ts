/** Drawn logs: runs of many lengths that end where others were cut, as far above the limit as the cable loses. */

import { DAY, type Drawn, find } from '../../../tests/support/drawnLoads';

const DAYS = 12;
/** Two runs of 40 A a day beside 2 A that go on, longer and shorter from day to day; they sink by 5 mV a minute to where they end. */
const drawn = (morning: (day: number) => number, evening: (day: number) => number): Drawn => {
  const runAt = (m: number) => {
    const day = Math.floor(m / DAY);
    const [from, end, volts] =
      m % DAY < 720
        ? [300, 330 + ((7 * day) % 23), morning(day)]
        : [1000, 1020 + ((11 * day) % 29), evening(day)];
    return m % DAY >= from && m % DAY < end ? volts + 0.005 * (end - 1 - (m % DAY)) : null;
  };
  return { amps: (m) => (runAt(m) === null ? 2 : 42), volts: (m) => runAt(m) ?? 12.7 };
};
const evenings = (of: Drawn) =>
  find({ ...of, given: () => 0 }, { cutoffV: 11.5 }, { days: DAYS }).filter(
    (one) => (one.at / 60_000) % DAY > 800,
  ).length;

test('a little above what is near enough to the limit, where others were cut as little under that, a run was cut', () => {
  expect(
    evenings(
      drawn(
        () => 11.61,
        () => 11.635,
      ),
    ),
  ).toBe(DAYS);
});

test('further above them it has ended by itself; so it has where none was cut', () => {
  expect(
    evenings(
      drawn(
        () => 11.61,
        () => 11.72,
      ),
    ),
  ).toBe(0);
  expect(
    evenings(
      drawn(
        () => 12.3,
        (day) => 11.635 + 0.05 * (day % 3),
      ),
    ),
  ).toBe(0);
});

test('others that sank far under the limit at once do not show what the cable loses', () => {
  expect(
    evenings(
      drawn(
        () => 11.2,
        (day) => 11.635 + 0.05 * (day % 3),
      ),
    ),
  ).toBe(0);
});
