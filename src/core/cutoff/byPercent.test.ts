/** Drawn logs of loads that a percentage lets go. */

import { DAY, type Drawn, find, MINUTE } from '../../../tests/support/drawnLoads';

/** Off for two hours from the sixth hour of each day on. */
const off = (minute: number) => minute % DAY >= 360 && minute % DAY < 480;

test('a percentage that is reached; one that was passed long ago is none', () => {
  const drawn = { amps: (m: number) => (off(m) ? 0 : 5), volts: () => 12.7 };
  const falling = (m: number) => 40 + Math.max(0, 360 - (m % DAY)) / 18;
  const [one] = find({ ...drawn, shown: falling }, { cutoffPercent: 40 });
  expect([one!.by, one!.why]).toEqual(['pump', 'percent']);
  expect(one!.shown).toBeCloseTo(40, 0);
  expect(find({ ...drawn, shown: (m) => falling(m) - 10 }, { cutoffPercent: 40 })).toEqual([]);
});

test('a percentage that is reached within minutes, on a morning on which the sun had only just lifted the reading above it', () => {
  // All night under 37 %, from the fifth hour on it rises to 40; the load runs for four minutes and takes it down to 38.
  const shown = (m: number) => {
    const into = m % DAY;
    if (into < 300) return 36.5;
    if (into < 360) return 36.5 + (3.5 * (into - 300)) / 60;
    return into < 364 ? 40 - 0.5 * (into - 359) : 38 + (into - 364) / 200;
  };
  const drawn: Drawn = { amps: (m) => (m % DAY >= 360 && m % DAY < 364 ? 40 : 2), volts: () => 12.9, shown };
  const found = find(drawn, { cutoffPercent: 38 }, { days: 4 });
  expect(found.map((one) => one.why)).toEqual(Array(4).fill('percent'));
});

test('a reading that falls by points from sample to sample is seen above the percentage that it came to', () => {
  // Down to 41 % in the last sample: the next is under 40 % where it falls fast, and not where it falls slowly.
  const drawn = (falls: number): Drawn => ({
    amps: (m) => (off(m) ? 0 : 40),
    volts: () => 12.7,
    shown: (m) => 41 + falls * Math.max(0, 359 - (m % DAY)),
  });
  const why = (falls: number) => find(drawn(falls), { cutoffPercent: 40 }).map((one) => one.why);
  expect(why(1.5)).toEqual(['percent', 'percent']);
  expect(why(0.1)).toEqual([]);
});

test('the same percentage each day is no limit of a load that runs below it too', () => {
  // Off at 60 % every afternoon; on other hours it runs at 50 % or does not.
  const drawn = (below: boolean, end = 60): Drawn => ({
    amps: (m) => (m % DAY < 607 || (below && m % DAY >= 1000 && m % DAY < 1200) ? 5 : 0),
    volts: () => 12.7,
    shown: (m) =>
      m % DAY < 607 ? end + (607 - (m % DAY)) / 60 : m % DAY < 1000 ? end : m % DAY < 1200 ? 50 : end + 10,
  });
  expect(find(drawn(false), {}, { days: 6 }).every((one) => one.why === 'percent')).toBe(true);
  expect(find(drawn(false), {}, { days: 6 })).toHaveLength(6);
  expect(find(drawn(true), {}, { days: 6 })).toEqual([]);
  // As long each day, to the minute, and at no round figure: a clock, and a battery that was as full each time.
  expect(find(drawn(false, 62.4), {}, { days: 6 })).toEqual([]);
  // Whatever else comes and goes on some evenings, with the battery full again.
  const evening = (m: number) => {
    const day = Math.floor(m / DAY);
    return day % 3 === 0 && m % DAY >= 1000 && m % DAY < 1200 + 13 * day;
  };
  const withEvenings: Drawn = {
    ...drawn(false, 62.4),
    amps: (m) => (m % DAY < 607 || evening(m) ? 5 : 0),
    shown: (m) => (m % DAY < 607 ? 62.4 + (607 - (m % DAY)) / 60 : evening(m) ? 92 - (m % DAY) / 500 : 90),
  };
  expect(find(withEvenings, {}, { days: 9 })).toEqual([]);
});

test('nor of one that ends on a quarter of the hour each day: a clock does that', () => {
  const drawn = (end: number): Drawn => ({
    amps: (m) => (m % DAY < end ? 5 : 0),
    volts: () => 12.7,
    shown: (m) => 60 + Math.max(0, end - (m % DAY)) / 60,
  });
  expect(find(drawn(600), {}, { days: 6 })).toEqual([]);
  expect(find(drawn(607), {}, { days: 6 })).toHaveLength(6);
});

test('a load with a percentage of its own is not cut by a voltage, alike though it is each time', () => {
  // Four runs a day of 66 minutes, down to 12.0 V; the reading stays at 60 %.
  const run = (m: number) => m % 360 < 66;
  const drawn: Drawn = {
    amps: (m) => (run(m) ? 40 : 0),
    volts: (m) => (run(m) ? 12.6 - (m % 360) / 110 : 12.7),
    shown: (m) => 60 - (run(m) ? (m % 360) / 30 : 0),
  };
  expect(find(drawn, { cutoffPercent: 41 }, { days: 4 })).toEqual([]);
  expect(find(drawn, {}, { days: 4 }).map((one) => one.why)).toEqual(Array(16).fill('volts'));
});

test('nor where the reading stood still for hours before: it was not brought down to a percentage', () => {
  // Each day it ends seven minutes later, at about 30 %.
  const drawn = (falls: number): Drawn => {
    const left = (m: number) => 360 + 7 * Math.floor(m / DAY) - (m % DAY);
    return {
      amps: (m) => (left(m) > 0 ? 1.5 : 0),
      volts: () => 12.7,
      shown: (m) => (left(m) > 0 ? 30 + (falls * left(m)) / 240 : 62),
    };
  };
  expect(find(drawn(0.3), {}, { days: 6 })).toEqual([]);
  expect(find(drawn(6), {}, { days: 6 })).toHaveLength(6);
});

test('a load that is let go as it begins, under its percentage', () => {
  // Forty minutes at eight and at noon; at six in the morning, at 28 %, a minute.
  const at = (m: number, from: number, minutes: number) => m % DAY >= from && m % DAY < from + minutes;
  const drawn: Drawn = {
    amps: (m) => (at(m, 360, 1) || at(m, 480, 40) || at(m, 720, 40) ? 40 : 1),
    volts: () => 12.7,
    shown: (m) => (m % DAY < 420 ? 28 : 80),
  };
  expect(
    find(drawn, { cutoffPercent: 31 }, { days: 4 }).map((one) => [(one.at / MINUTE) % DAY, one.why]),
  ).toEqual(Array.from({ length: 4 }, () => [361, 'percent']));
  // One that always lasts a minute has done so.
  const short: Drawn = { ...drawn, amps: (m) => (at(m, 360, 1) || at(m, 480, 1) ? 40 : 1) };
  expect(find(short, { cutoffPercent: 31 }, { days: 4 })).toEqual([]);
});

test('a small load by its percentage, though the meter’s zero is off: it is back with the reading', () => {
  // 4.7 A, or 1.7 A by the meter with the load away; the reading goes from 60 down to 50 % and up to 65 %.
  const away = (m: number) => m % DAY >= 360 && m % DAY < 900;
  const shown = (m: number) =>
    away(m)
      ? 50 + (15 * ((m % DAY) - 360)) / 540
      : m % DAY < 360
        ? 60 - (m % DAY) / 36
        : 65 - ((m % DAY) - 900) / 108;
  const drawn = (amps: (m: number) => number): Drawn => ({ amps, volts: () => 12.7, shown });
  const found = find(
    drawn((m) => (away(m) ? 1.7 : 4.7)),
    { cutoffPercent: 50, reconnectPercent: 65 },
  );
  expect(found.map((one) => [one.at / MINUTE, one.why])).toEqual([
    [360, 'percent'],
    [360 + DAY, 'percent'],
  ]);
  // A pump of that size that rests for an hour as the reading passes there.
  const pump = drawn((m) => (m % 120 < 60 ? 4.7 : 1.7));
  expect(find(pump, { cutoffPercent: 50, reconnectPercent: 65 })).toEqual([]);
  expect(
    find(
      drawn((m) => (away(m) ? 1.7 : 4.7)),
      {},
    ),
  ).toEqual([]);
});

test('a load that stays away for most of the log, the reading sinking on by the meter’s zero, was cut by the percentage', () => {
  // Cut at 40 % on three days, and away for good from then on; what is left of the meters' noise is no load that runs below.
  const away = (m: number) => m >= 3 * DAY - 600 || m % DAY >= 800;
  const drawn: Drawn = {
    amps: (m) => (away(m) ? 0.02 * (m % 3) : 4),
    volts: () => 12.9,
    shown: (m) =>
      m >= 3 * DAY - 600 ? Math.max(0, 40 - (m - 3 * DAY + 600) / 60) : away(m) ? 40 : 72 - (m % DAY) / 25,
  };
  const found = find(drawn, {}, { days: 9, chemistry: 'lfp' });
  expect(found.map((one) => one.why)).toEqual(['percent', 'percent', 'percent']);
});

test('the same percentage each day is no limit where a charger carries the load: the battery gave nothing', () => {
  // Off at 60 % at noon, the charger giving all that it draws, or a fifth of that.
  const noon = (m: number) => 720 + 13 * (Math.floor(m / DAY) % 3);
  const found = (given: number) =>
    find(
      {
        amps: (m) => (m % DAY < noon(m) ? 5 : 0),
        given: () => given,
        volts: () => 12.7,
        shown: (m) => 60 + Math.max(0, noon(m) - (m % DAY)) / 60,
      },
      {},
      { days: 6 },
    ).map((one) => one.why);
  expect(found(1)).toEqual(Array(6).fill('percent'));
  expect(found(5)).toEqual([]);
});
