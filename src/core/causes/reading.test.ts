/** A percentage that is made from the voltage, and one that is reset at the end of bulk: which of the two it is. */

import { followsVolts } from '../count/followsVolts';
import type { Counting } from '../count/types';
import type { Judged } from './cause';
import { bulkEndReset } from './bulk-end-reset';
import { monitorRestarted } from './monitor-restarted';
import { isMadeFromVolts, resetsIn } from './reading';
import { voltageGuess } from './voltage-guess';

const jump = (at: number, from: number, to: number) => ({
  at,
  from,
  to,
  silentMs: 0,
  sinceMs: 60_000,
  couldFall: 0,
  mayBeSync: false,
  drawn: false,
  charged: false,
});
const counting = (told: number, explained: number, jumps = [] as Counting['jumps']) =>
  ({
    followsVolts: { steps: 30, jumps: 0, points: NaN, spans: [], told },
    behaves: { explained },
    jumps,
    logged: { from: 0, to: 1 },
  }) as unknown as Counting;
const seen = (one: Counting, method?: 'shunt' | 'voltage') =>
  ({ counting: one, system: { monitor: method ? { method } : {}, sources: [] } }) as unknown as Judged;
const sum = (of: typeof voltageGuess, judged: Judged) =>
  [...(of.weigh?.(judged) ?? []), ...(of.described?.(judged) ?? [])].reduce(
    (total, one) => total + one.decibans,
    0,
  );

test('made from the voltage where that tells it and what flows does not', () => {
  expect(isMadeFromVolts(counting(0.9, 0.5))).toBe(true);
  expect(isMadeFromVolts(counting(0.9, 0.95))).toBe(false);
  expect(isMadeFromVolts(counting(0.5, 0.5))).toBe(false);
});

test('a slow display does not jump along: that speaks against it only where nothing else says how it is made', () => {
  expect(sum(voltageGuess, seen(counting(0.9, 0.5)))).toBeGreaterThan(10);
  expect(sum(voltageGuess, seen(counting(0.5, 0.9)))).toBeLessThan(0);
  // What is known of the device stays, though its reading looks like a count.
  expect(sum(voltageGuess, seen(counting(0.5, 0.95), 'voltage'))).toBe(15);
  expect(sum(voltageGuess, seen(counting(0.5, 0.95), 'shunt'))).toBeLessThan(-10);
});

test('what was told of the monitor goes behind a reading that plainly jumps along', () => {
  const told = (jumps: number) => {
    const one = counting(0.5, 0.7);
    const jumping = { ...one, followsVolts: { ...one.followsVolts!, jumps, points: 7 } };
    return voltageGuess.described!(seen(jumping, 'shunt')).map(({ decibans }) => decibans);
  };
  expect(told(15)).toEqual([]);
  expect(told(3)).toEqual([-2]);
  const describes = (volts: number, flow: number) =>
    voltageGuess.described!(seen(counting(volts, flow), 'shunt')).map(({ decibans }) => decibans);
  expect(describes(0.9, 0.5)).toEqual([]);
  expect(describes(0.9, 0.75)).toEqual([-2]);
});

test('a reading that falls to one value while the battery is drawn on is not reset there: no bulk ends', () => {
  const falls = (drawn: boolean) =>
    resetsIn(
      counting(
        0.5,
        0.5,
        [1, 2, 3].map((at) => ({ ...jump(at, 95 + at, 87), drawn })),
      ),
    ).same.length;
  expect(falls(true)).toBe(0);
  expect(falls(false)).toBe(3);
});

test('jumps to one value are a reset of a count, and not where the voltage brings the reading there', () => {
  const jumps = [jump(1, 60, 82), jump(2, 70, 82), jump(3, 65, 83)];
  expect(resetsIn(counting(0.3, 0.9, jumps)).same).toHaveLength(3);
  expect(sum(bulkEndReset, seen(counting(0.3, 0.9, jumps)))).toBeGreaterThan(10);
  expect(sum(bulkEndReset, seen(counting(0.9, 0.5, jumps)))).toBeLessThan(5);
  // Nor where the monitor is known to go by the voltage, though a slow display hides that.
  const weighed = bulkEndReset.weigh!(seen(counting(0.3, 0.7, jumps), 'voltage'));
  expect(weighed.reduce((total, one) => total + one.decibans, 0)).toBeLessThan(5);
});

test('a silence with another reading after it is a restart; not where a charge may have set it to full meanwhile', () => {
  const silent = (to: number, mayBeSync = false) => ({
    ...jump(1, 82, to),
    silentMs: 31 * 60_000,
    mayBeSync,
  });
  const weighed = (...jumps: Counting['jumps']) => monitorRestarted.weigh!(seen(counting(0.3, 0.9, jumps)));
  expect(weighed(silent(100))[0]!.decibans).toBeGreaterThan(10);
  expect(weighed(silent(100, true))[0]!.decibans).toBeLessThan(5);
  expect(weighed(silent(100, true))[0]!.text).toContain('the battery was charged meanwhile');
  // Another restart, that no charge explains, is told by itself.
  const both = weighed(silent(100, true), { ...silent(50), at: 2 });
  expect(both[0]!.text).toMatch(/^Once .*82 % before, 50 % after\.$/);
  expect(weighed()[0]!.decibans).toBeLessThan(0);
});

test('a log that is written seldom hides a silence between two entries', () => {
  const apart = (at: number, to: number, minutes: number) => ({
    ...jump(at, 85, to),
    sinceMs: minutes * 60_000,
    couldFall: (28 * minutes) / 60,
  });
  const total = (some: readonly { decibans: number }[]) => some.reduce((all, one) => all + one.decibans, 0);
  const weighed = (...jumps: Counting['jumps']) =>
    total(monitorRestarted.weigh!(seen(counting(0.3, 0.9, jumps))));
  expect(weighed(apart(1, 50, 50), apart(2, 49, 50))).toBe(14);
  expect(weighed(apart(1, 50, 50))).toBe(11);
  // From 85 to 40 % in a quarter of an hour no load takes it, where the largest takes 28 % an hour; to full a sync may have set it.
  expect(weighed(apart(1, 40, 15))).toBe(14);
  expect(weighed(apart(1, 40, 50))).toBe(11);
  expect(weighed(apart(1, 5, 50))).toBe(14);
  expect(weighed(apart(1, 5, 100))).toBe(11);
  expect(weighed(apart(1, 100, 15))).toBe(11);
  // Within a minute no monitor is off and on again; and what jumps every day is made otherwise.
  expect(weighed(apart(1, 50, 1))).toBeLessThan(0);
  expect(weighed(...[1, 2, 3, 4, 5].map((at) => apart(at, 50, 50)))).toBeLessThan(0);
});

test('a log in which so much may flow from one sample to the next tells no jumps', () => {
  const log = (minutes: number) => {
    const time = Float64Array.from({ length: 400 }, (_, i) => i * minutes * 60_000);
    const on = (i: number) => i % 8 < 4;
    return {
      device: 'monitor',
      time,
      amps: Float32Array.from(time, () => 0),
      ampsAreItsOwn: true,
      volts: Float32Array.from(time, (_, i) => (on(i) ? 12.2 : 12.8)),
      reading: Float32Array.from(time, (_, i) => (on(i) ? 40 : 80)),
    };
  };
  expect(followsVolts(log(10), 100, 1)!.jumps).toBeGreaterThan(50);
  expect(followsVolts(log(50), 100, 1)).toBeNull();
});
