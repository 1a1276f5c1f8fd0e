/** Drawn logs: what ends at one voltage was cut, however long it ran; what runs on under a limit was not cut by it. */

import { DAY, type Drawn, find } from '../../../tests/support/drawnLoads';

/** From the sixth hour of each day on, for other minutes each day; two amperes go on. */
const minutesOf = (m: number) => 12 + 6 * ((3 * Math.floor(m / DAY)) % 5);
const isRunning = (m: number) => m % DAY >= 360 && m % DAY < 360 + minutesOf(m);
const drawn = (volts: (left: number, ran: number) => number): Drawn => ({
  amps: (m) => (isRunning(m) ? 32 : 2),
  volts: (m) => (isRunning(m) ? volts(359 + minutesOf(m) - (m % DAY), (m % DAY) - 360) : 12.7),
});

test('runs of other lengths that all end at one voltage, above the limit by what the cable loses', () => {
  // Sinking by three hundredths a minute to 11.85 V, with a limit of 11.5 V.
  const found = find(
    drawn((left) => 11.85 + 0.03 * left),
    { cutoffV: 11.5 },
    { days: 6 },
  );
  expect(found.map((one) => [one.by, one.why])).toEqual(Array.from({ length: 6 }, () => ['pump', 'volts']));
});

test('runs that end where their length brings them, or further above the limit than any cable loses', () => {
  const byLength = drawn((_, ran) => 12.1 - 0.01 * ran);
  expect(find(byLength, { cutoffV: 11.5 }, { days: 6 })).toEqual([]);
  const above = drawn((left) => 12.1 + 0.03 * left);
  expect(find(above, { cutoffV: 11.5 }, { days: 6 })).toEqual([]);
});

test('runs of two lengths, by noon and by night, that end at one voltage; at two they went their length', () => {
  const night = (m: number) => m % DAY >= 100 && m % DAY < 108;
  const noon = (m: number) => m % DAY >= 700 && m % DAY < 719 && Math.floor(m / DAY) % 2 === 0;
  const drawn = (end: number): Drawn => ({
    amps: (m) => (night(m) || noon(m) ? 32 : 2),
    volts: (m) =>
      night(m) ? 11.8 + 0.03 * (107 - (m % DAY)) : noon(m) ? end + 0.03 * (718 - (m % DAY)) : 12.7,
  });
  expect(find(drawn(11.8), { cutoffV: 11.5 }, { days: 7 })).toHaveLength(11);
  expect(find(drawn(11.98), { cutoffV: 11.5 }, { days: 7 })).toEqual([]);
});

test('a voltage that hardly sinks tells no limit', () => {
  const flat = drawn((left) => 11.9 + 0.0005 * left);
  expect(find(flat, { cutoffV: 11.5 }, { days: 6 })).toEqual([]);
});

test('what has run on for an hour under a limit was not cut by it', () => {
  // An empty battery at 10.9 V from the fifth hour on; 5 A until the seventh, at another minute each day.
  const night = (volts: number): Drawn => ({
    amps: (m) => (m % DAY >= 60 && m % DAY < 400 + minutesOf(m) ? 5 : 0),
    volts: (m) => (m % DAY < 300 ? 12.3 : m % DAY < 440 ? volts : 12.3),
  });
  expect(find(night(10.9), { cutoffV: 11.5 }, { days: 6 })).toEqual([]);
  expect(find(night(11.55), { cutoffV: 11.5 }, { days: 6 })).toHaveLength(6);
});

test('on days that are alike: runs shorter than the whole ones, near their limit, were cut; far from it they were not', () => {
  // By day an hour of 32 A, as the sun holds the voltage up; by night 34 minutes of it, sinking by two hundredths a minute.
  const night = (m: number) => m % DAY >= 100 && m % DAY < 134;
  const drawn = (end: number, minutes = 60): Drawn => ({
    amps: (m) => (night(m) || (m % DAY >= 700 && m % DAY < 700 + minutes) ? 32 : 2),
    volts: (m) => (night(m) ? end + 0.02 * (133 - (m % DAY)) : m % DAY >= 700 && m % DAY < 760 ? 12.2 : 12.7),
  });
  const cuts = (one: Drawn) => find(one, { cutoffV: 11.5 }, { days: 7 }).map(({ at }) => (at / 60_000) % DAY);
  expect(cuts(drawn(11.65))).toEqual(Array.from({ length: 7 }, () => 134));
  expect(cuts(drawn(11.8))).toEqual([]);
  // By day as long as by night: a clock.
  expect(cuts(drawn(11.65, 34))).toEqual([]);
});
