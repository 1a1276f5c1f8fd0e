/** Runs of one length that end a little above their limit: cut-offs where that is the complaint. Drawn, so that the answer is known. */

import { DAY, type Drawn, judge } from '../../../tests/support/drawnLoads';
import { asComplained } from './doubtful';
import type { CutOff, CutOffs } from './types';

const DAYS = 8;
/** 40 A beside 2 A that go on, twenty minutes each night; the voltage sinks by 20 mV a minute. @param end V, by the day */
const nightly = (end: (day: number) => number, minutes: (day: number) => number = () => 20): Drawn => {
  const left = (m: number) => 60 + minutes(Math.floor(m / DAY)) - 1 - (m % DAY);
  const runs = (m: number) => m % DAY >= 60 && left(m) >= 0;
  return {
    amps: (m) => (runs(m) ? 42 : 2),
    volts: (m) => (runs(m) ? end(Math.floor(m / DAY)) + 0.02 * left(m) : 12.7),
    given: () => 0,
  };
};
const of = (drawn: Drawn, cutoffV: number | null = 11.5) => {
  const { list, doubtful } = judge(drawn, { cutoffV: cutoffV ?? undefined }, { days: DAYS });
  return [list.length, doubtful.length];
};

test('runs of one length that end a fifth of a volt above the limit, night for night, may be cut-offs', () => {
  expect(of(nightly(() => 11.7))).toEqual([0, DAYS]);
});

test('so they may by a coarse meter, which does not show each of them sink', () => {
  // In tenths of a volt; on two nights of eight the last samples are alike.
  const fine = nightly((day) => (day < 2 ? 11.73 : 11.7));
  const coarse: Drawn = { ...fine, volts: (m) => Math.round(10 * fine.volts(m)) / 10 };
  expect(of(coarse)).toEqual([0, DAYS]);
  const flat: Drawn = { ...fine, volts: (m) => (fine.amps(m) > 2 ? 11.7 : 12.7) };
  expect(of(flat)).toEqual([0, 0]);
});

test('they are none where the limit is further away or not known, or where some of them ended well above it', () => {
  expect(of(nightly(() => 11.85))).toEqual([0, 0]);
  expect(
    of(
      nightly(() => 11.7),
      null,
    )[1],
  ).toBe(0);
  expect(of(nightly((day) => (day % 2 === 0 ? 11.7 : 12.1)))).toEqual([0, 0]);
});

test('nor where the load’s own voltage was logged, which comes to no limit', () => {
  const drawn = { ...nightly(() => 11.7), given: undefined };
  expect(of({ ...drawn, loadVolts: drawn.volts })).toEqual([0, 0]);
});

test('nor above those that were surely cut, which show what the cable loses', () => {
  // Five nights end at another time each, near the limit; three a tenth of a volt higher.
  const drawn = (higher: number) =>
    nightly(
      (day) => (day < 5 ? 11.58 : 11.58 + higher),
      (day) => (day < 5 ? 12 + 7 * day : 20),
    );
  expect(of(drawn(0.12))).toEqual([5, 0]);
});

test('low ends of a load without a known limit are a clock’s, perhaps, where days are alike to the minute; else a limit’s', () => {
  const count = (minutes: (day: number) => number, days: number, cutoffV?: number) => {
    const drawn = nightly(() => 11.3, minutes);
    const alone: Drawn = { ...drawn, amps: (m) => (drawn.amps(m) === 42 ? 42 : 0) };
    const { list, doubtful } = judge(alone, { cutoffV }, { days });
    return [list.length, doubtful.length];
  };
  expect(count(() => 23, 10)).toEqual([0, 10]);
  expect(count((day) => 20 + 3 * (day % 5), 10)).toEqual([10, 0]);
  expect(count(() => 23, 5)).toEqual([5, 0]);
  // A limit that is known was reached.
  expect(count(() => 23, 10, 11.3)).toEqual([10, 0]);
});

describe('doubtful ones count', () => {
  const at = (hour: number, isDoubtful: boolean) => ({ at: hour, last: hour, isDoubtful }) as CutOff;
  const found = {
    list: [at(5e6, false)],
    doubtful: [at(1e6, true), at(9e6, true)],
    nearMisses: [
      { by: 'pump', at: 1e6, last: 1e6, volts: 11.7, limit: 11.5 },
      { by: 'pump', at: 3e6, last: 3e6, volts: 11.7, limit: 11.5 },
    ],
  } as unknown as CutOffs;
  test('where the complaint is of loads that go off, in their order, and are no near misses then', () => {
    const weighed = asComplained(found, ['drifting-soc', 'premature-cutoff'])!;
    expect(weighed.list.map((one) => one.at)).toEqual([1e6, 5e6, 9e6]);
    expect(weighed.nearMisses.map((one) => one.at)).toEqual([3e6]);
  });
  test('nowhere else', () => {
    expect(asComplained(found, ['undercharging'])).toBe(found);
    expect(asComplained(null, ['premature-cutoff'])).toBeNull();
  });
});
