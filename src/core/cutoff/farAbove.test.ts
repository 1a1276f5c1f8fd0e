/** Drawn logs: where a load is cut as a rule, and what ends far above that. */

import { DAY, type Drawn, find } from '../../../tests/support/drawnLoads';

/** Cut each morning near its limit after another time; every other evening a run ends at another voltage. @param evening A */
const drawn = (end: number, evening: number, cutFrom = 11.55): Drawn => {
  const cutAt = (m: number) => 30 + 7 * (Math.floor(m / DAY) % 4);
  const isMorning = (m: number) => m % DAY < cutAt(m);
  const isEvening = (m: number) =>
    m % (2 * DAY) >= 900 && m % (2 * DAY) < 930 + 11 * (Math.floor(m / DAY) % 3);
  return {
    amps: (m) => (isMorning(m) ? 30 : isEvening(m) ? evening : 0),
    volts: (m) => (isMorning(m) ? cutFrom + 0.004 * (cutAt(m) - (m % DAY)) : isEvening(m) ? end : 12.7),
  };
};
const evenings = (end: number, amps: number, days = 7, cutFrom?: number) =>
  find(drawn(end, amps, cutFrom), { cutoffV: 11.5 }, { days }).filter((one) => (one.at / 60_000) % DAY > 800)
    .length;

test('what ends far above where the load is cut, with as much current or less, has ended by itself', () => {
  expect(evenings(11.7, 30)).toBe(0);
  expect(evenings(11.7, 3)).toBe(0);
});

test('near where it is cut it was cut; so it was with far more current, and where few show where that is', () => {
  expect(evenings(11.6, 30)).toBe(4);
  expect(evenings(11.7, 60)).toBe(4);
  expect(evenings(11.7, 30, 2)).toBe(1);
});

test('cuts that were seen far under the limit do not show what the cable loses', () => {
  expect(evenings(11.58, 30, 7, 10.4)).toBe(4);
});

test('what is let go within a minute fell under its limit at once, and does not show where it is cut', () => {
  // By night it is let go after the first samples; at noon it runs for 18 minutes down to where its cable loses 0.1 V.
  const at = (night: number): Drawn => {
    const isNight = (m: number) => m % DAY < night;
    const isNoon = (m: number) => m % DAY >= 700 && m % DAY < 718;
    return {
      amps: (m) => (isNight(m) || isNoon(m) ? 30 : 0),
      volts: (m) =>
        isNight(m) ? 11.52 : isNoon(m) ? 11.62 + 0.02 * (717 - (m % DAY)) : m % DAY < 700 ? 12.1 : 12.5,
    };
  };
  const noons = (night: number) =>
    find(at(night), { cutoffV: 11.5 }, { days: 9 }).filter((one) => (one.at / 60_000) % DAY > 600).length;
  expect(noons(1)).toBeGreaterThan(7);
  expect(noons(5)).toBe(0);
});

test('a little above where it is cut, and over at one time each evening, it was switched off by a clock', () => {
  const daily = (late: (day: number) => number, end: number): Drawn => {
    const cut = drawn(12.7, 0);
    const isEvening = (m: number) => m % DAY >= 900 && m % DAY < 931 + late(Math.floor(m / DAY));
    return {
      amps: (m) => (isEvening(m) ? 30 : cut.amps(m)),
      volts: (m) => (isEvening(m) ? end + 0.001 * (931 - (m % DAY)) : cut.volts(m)),
    };
  };
  const count = (of: Drawn) =>
    find(of, { cutoffV: 11.5 }, { days: 9 }).filter((one) => (one.at / 60_000) % DAY > 800).length;
  expect(count(daily(() => 0, 11.64))).toBe(0);
  expect(count(daily((day) => 5 * (day % 4), 11.64))).toBeGreaterThan(5);
  expect(count(daily(() => 0, 11.57))).toBeGreaterThan(5);
});

test('no further above than a cable loses it was cut, at one time each evening as it may be: the others sank through their limit', () => {
  // The mornings end at the limit of 11.5 V or under it; the evenings 40 mV above, minute for minute.
  const evening = (end: number): Drawn => {
    const cut = drawn(12.7, 0, 11.48);
    const isEvening = (m: number) => m % DAY >= 900 && m % DAY < 931;
    return {
      amps: (m) => (isEvening(m) ? 30 : cut.amps(m)),
      volts: (m) => (isEvening(m) ? end + 0.001 * (931 - (m % DAY)) : cut.volts(m)),
    };
  };
  const count = (end: number) =>
    find(evening(end), { cutoffV: 11.5 }, { days: 9 }).filter((one) => (one.at / 60_000) % DAY > 800).length;
  expect(count(11.54)).toBeGreaterThan(5);
  expect(count(11.62)).toBe(0);
});

test('a coarse meter tells a single step apart where many end here and many there', () => {
  // In steps of 50 mV: the mornings are cut at 11.57 V, read as 11.55 or 11.60; the evenings end at 11.65 V by a clock.
  const cut = drawn(12.7, 0, 11.57);
  const isEvening = (m: number) => m % DAY >= 900 && m % DAY < 931;
  const coarse: Drawn = {
    amps: (m) => (isEvening(m) ? 30 : cut.amps(m)),
    volts: (m) => {
      const volts = isEvening(m) ? 11.65 + 0.0005 * (931 - (m % DAY)) : cut.volts(m) + 0.03 * Math.sin(m / 7);
      return Math.round(20 * volts) / 20;
    },
  };
  const evenings = (days: number) =>
    find(coarse, { cutoffV: 11.5 }, { days }).filter((one) => (one.at / 60_000) % DAY > 800).length;
  expect(evenings(14)).toBe(0);
  expect(evenings(6)).toBeGreaterThan(3);
});

test('at the load’s own terminals what ends above its limit, where others were cut at it, has ended by itself', () => {
  const own = (end: number) => {
    const of = drawn(end, 30, 11.5);
    return find({ ...of, loadVolts: of.volts }, { cutoffV: 11.5 }, { days: 11 }).filter(
      (one) => (one.at / 60_000) % DAY > 800,
    ).length;
  };
  expect(own(11.75)).toBe(0);
  expect(own(11.5)).toBeGreaterThan(3);
});

test('what draws more and ends no higher than those that draw less was cut, at one time each day as it may be', () => {
  // A source carries half of what the load draws by night: the meter shows less, and the cable loses as much. In the evening it sinks at once.
  const cutAt = (m: number) => 30 + 7 * (Math.floor(m / DAY) % 4);
  const overAt = (m: number) => 1205 + (Math.floor(m / DAY) % 7);
  const noons = (night: number) => {
    const isNight = (m: number) => m % DAY < cutAt(m);
    const isNoon = (m: number) => m % DAY >= 720 && m % DAY < 751;
    const isEvening = (m: number) => m % DAY >= 1200 && m % DAY < overAt(m);
    const of: Drawn = {
      amps: (m) => (isNight(m) ? 20 : isNoon(m) ? 60 : isEvening(m) ? 90 : 2),
      volts: (m) => {
        if (isNight(m)) return night + 0.004 * (cutAt(m) - (m % DAY));
        if (isNoon(m)) return 11.6 + 0.03 * (750 - (m % DAY));
        return isEvening(m) ? 11.45 + 0.02 * (overAt(m) - (m % DAY)) : 12.7;
      },
    };
    return find(of, { cutoffV: 11.5 }, { days: 9 }).filter(
      (one) => Math.abs(((one.at / 60_000) % DAY) - 751) < 5,
    ).length;
  };
  expect(noons(11.6)).toBeGreaterThan(5);
  expect(noons(11.54)).toBe(0);
});

test('many small loads that end alike are no rule against a large one, which is cut lower', () => {
  // 3 A three times an evening, over at one voltage above where 30 A are cut in the morning; what draws less loses less in its cable.
  const cut = drawn(12.7, 0);
  const runs = (m: number) => m % DAY >= 800 && m % 200 < 40 + (Math.floor(m / 200) % 3) * 11;
  const pumps = (end: number): Drawn => ({
    amps: (m) => (runs(m) ? 3 : cut.amps(m)),
    volts: (m) => (runs(m) ? end : cut.volts(m)),
  });
  const count = (end: number) =>
    find(pumps(end), { cutoffV: 11.5 }, { days: 8 }).filter((one) => (one.at / 60_000) % DAY > 700).length;
  expect(count(11.7)).toBe(0);
  expect(count(11.5)).toBeGreaterThan(10);
});
