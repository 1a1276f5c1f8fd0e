/** Runs of which a hole in the log hides the begin. Drawn, so that the answer is known. */

import { DAY, type Drawn, judge } from '../../../tests/support/drawnLoads';

const DAYS = 10;
/** A hole of another length lies over the begin of the run each night, but for every third. */
const isHole = (m: number): boolean => {
  const day = Math.floor(m / DAY);
  return day % 3 !== 0 && m % DAY >= 50 && m % DAY < 70 + 3 * day;
};
const withHoles = ({ amps, volts }: Drawn): Drawn => ({
  amps: (m) => (isHole(m) ? NaN : amps(m)),
  volts: (m) => (isHole(m) ? NaN : volts(m)),
  given: (m) => (isHole(m) ? NaN : 0),
});

/** 40 A from one o'clock on, nothing else; ninety minutes, by the night one more or less, in which the voltage sinks to where it is cut. */
const cut: Drawn = {
  amps: (m) => (leftOf(m) > 0 ? 40 : 0),
  volts: (m) => (leftOf(m) > 0 ? 11.45 + 0.02 * (leftOf(m) - 1) : 12.7),
  given: () => 0,
};
function leftOf(m: number): number {
  const minutes = 90 + (Math.floor(m / DAY) % 2);
  return m % DAY >= 60 ? 60 + minutes - (m % DAY) : 0;
}

test('what a limit ends at about one time each night is found, though runs seem to be of many lengths', () => {
  expect(judge(cut, { cutoffV: 11.4 }, { days: DAYS }).list).toHaveLength(DAYS);
  expect(judge(withHoles(cut), { cutoffV: 11.4 }, { days: DAYS }).list).toHaveLength(DAYS);
});

test('what runs for a set time ends by itself, on the nights too on which nobody saw it begin', () => {
  // A pump of an hour at one o'clock: on the first nights well above its limit, then ever nearer.
  const pump: Drawn = {
    amps: (m) => (m % DAY >= 60 && m % DAY < 120 ? 40 : 0),
    volts: (m) => (m % DAY >= 60 && m % DAY < 120 ? 12.6 - 0.08 * Math.floor(m / DAY) : 12.9),
    given: () => 0,
  };
  expect(judge(pump, { cutoffV: 11.5 }, { days: 14 }).list).toHaveLength(0);
  expect(judge(withHoles(pump), { cutoffV: 11.5 }, { days: 14 }).list).toHaveLength(0);
});

test('a small load whose begin was not seen, after which others draw on, is one of those that leave them on', () => {
  // 2.5 A for twenty-five minutes of every two hours over 0.4 A of others, at a battery of 100 Ah that stays low.
  const cycles: Drawn = {
    amps: (m) => 0.4 + ((m + 60) % 120 < 75 ? 2.5 : 0),
    volts: (m) => 11.4 - ((m + 60) % 120 < 75 ? 0.05 : 0),
    given: () => 0,
  };
  expect(judge(cycles, { cutoffV: 11.4 }, { days: DAYS }).list).toHaveLength(0);
  expect(judge(withHoles(cycles), { cutoffV: 11.4 }, { days: DAYS }).list).toHaveLength(0);
});
