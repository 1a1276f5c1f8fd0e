/** Drops that take with them what else was drawn, and packs that are drained. */

import { DAY, type Drawn, find } from '../../../tests/support/drawnLoads';

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
