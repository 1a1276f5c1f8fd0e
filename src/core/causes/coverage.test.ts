/** Devices that the monitor shows, or does not: what one says of the others. */

import type { Share } from '../count/shares';
import { HOUR } from '../quantity/span';
import { missingCoverage, weighCoverage, weighShares, zeroAtFloat } from './coverage';
import { currentScale } from './current-scale';
import { sourceNotCounted } from './source-not-counted';

const share = (id: string, part: number, error = 0.03): Share => ({
  id,
  kind: 'source',
  share: part,
  error,
  steps: 8,
});
const weighed = (...shares: Share[]) => {
  const sources = ['one', 'two'].map((id) => ({ id, name: id }));
  const counting = { meters: { shares }, logged: { from: 0, to: 1 } };
  return weighShares({ counting, system: { sources, loads: [] } } as never, 'source').map((one) => [
    one.text,
    Math.sign(one.decibans),
  ]);
};

test('one that is not shown is enough', () => {
  expect(weighed(share('one', 1), share('two', 0.02))).toEqual([
    ['When the current of two moves, the monitor’s does not (8 times).', 1],
  ]);
  expect(weighed({ ...share('two', 0), carriedHours: 12.4 })).toEqual([
    ['While two carried the loads, the monitor showed them drawn from the battery (12 hours).', 1],
  ]);
});

test('all are cleared only where each is shown', () => {
  expect(weighed(share('one', 1), share('two', 0.97))[0]![1]).toBe(-1);
  expect(weighed(share('one', 1))).toEqual([]);
  // Neither shown nor surely hidden: that clears nobody.
  expect(weighed(share('one', 1), share('two', 0.02, 0.2))).toEqual([]);
});

test('what is missing hour after hour is the zero, where each charger is wired so that it counts and the zero is plain', () => {
  const weighed = (counted: boolean | null, deviation: number, drawnAmps = -2) =>
    sourceNotCounted.weigh!({
      charging: [],
      bank: { capacityAh: 100 },
      system: { sources: [{ id: 'one', name: 'One', counted }], loads: [] },
      counting: {
        logged: { from: 0, to: 1 },
        offsetA: { value: -0.7, deviation },
        wrong: { gain: 1, unseen: [] },
        through: { in: 100, out: 350, hours: 357 },
        meters: {
          shares: [],
          mostIn: 10,
          unseen: { spans: [], hours: 60, ofHours: 100, amps: -0.7, drawnAmps },
        },
      },
    } as never).reduce((sum, one) => sum + one.decibans, 0);
  expect(weighed(true, 0.1)).toBeLessThan(0);
  expect(weighed(true, 0.5)).toBeGreaterThan(20);
  expect(weighed(null, 0.1)).toBeGreaterThan(20);
  // Just what the loads draw is what a hidden charger leaves.
  expect(weighed(true, 0.1, -0.8)).toBeGreaterThan(20);
});

test('a charger’s own count sees no other charger, and no wire puts that right', () => {
  const weighed = (method: string) =>
    sourceNotCounted.weigh!({
      charging: [],
      bank: { capacityAh: 100 },
      system: { monitor: { method }, sources: [{ id: 'two', name: 'Two', counted: null }], loads: [] },
      counting: {
        logged: { from: 0, to: 1 },
        offsetA: { value: 0, deviation: 0.1 },
        wrong: { gain: 1, unseen: [] },
        through: { in: 100, out: 350, hours: 357 },
        meters: { shares: [share('two', 0)], mostIn: 10, unseen: null },
      },
    } as never).reduce((sum, one) => sum + one.decibans, 0);
  expect(weighed('shunt')).toBeGreaterThan(10);
  expect(weighed('source-count')).toBeLessThan(-10);
});

test('a charger’s own count has no sensor that a device could bypass: no wiring speaks for it, and none is asked for', () => {
  const told = (method: string) => {
    const seen = {
      job: { walk: { others: [{ what: 'a second black lead' }] } },
      system: { monitor: { method }, sources: [], loads: [] },
      counting: null,
    } as never;
    const of = (counted: boolean | null) => [{ id: 'two', name: 'Two', counted }] as never;
    return {
      weighed: weighCoverage(seen, of(false), 'source').map((one) => one.decibans > 0),
      missing: missingCoverage(seen, of(null)),
    };
  };
  expect(told('shunt')).toEqual({ weighed: [true, true], missing: ['whether the monitor counts Two'] });
  expect(told('source-count')).toEqual({ weighed: [], missing: [] });
});

test('what is missing beside the BMS’s meter at any current is the zero, however the chargers are wired', () => {
  const weighed = (comesAndGoes: number, drawnAmps = -1.1) =>
    sourceNotCounted.weigh!({
      charging: [],
      bank: { capacityAh: 100 },
      system: { sources: [{ id: 'one', name: 'One', counted: null }], loads: [] },
      counting: {
        logged: { from: 0, to: 1 },
        offsetA: { value: 0, deviation: 0.1 },
        wrong: { gain: 1, unseen: [] },
        through: { in: 100, out: 350, hours: 357 },
        meters: {
          shares: [],
          mostIn: 10,
          bms: { slope: 1, slopeError: 0.003, offsetA: -0.7, offsetError: 0.01, comesAndGoes, hours: null },
          unseen: { spans: [], hours: 60, ofHours: 100, amps: -0.6, drawnAmps },
        },
      },
    } as never).reduce((sum, one) => sum + one.decibans, 0);
  expect(weighed(0)).toBeLessThan(0);
  // Where next to nothing is drawn, too.
  expect(weighed(0, -0.65)).toBeLessThan(0);
  // What is missing now and then is a charger.
  expect(weighed(0.4)).toBeGreaterThan(20);
});

test('a charger that the monitor does not see beside the BMS’s meter, though another is seen whenever the voltage is high', () => {
  const weighed = (bms: object | null) =>
    sourceNotCounted.weigh!({
      charging: [],
      bank: { capacityAh: 100 },
      system: { sources: ['one', 'two'].map((id) => ({ id, name: id, counted: true })), loads: [] },
      counting: {
        logged: { from: 0, to: 1 },
        offsetA: { value: 0, deviation: 0.1 },
        wrong: { gain: 1, unseen: [share('two', 0)] },
        through: { in: 100, out: 120, hours: 357 },
        meters: {
          shares: [share('one', 1), share('two', 0.01)],
          mostIn: 10,
          bms,
          unseen: { spans: [], hours: 0, ofHours: 100, amps: NaN, drawnAmps: -1.1 },
        },
      },
    } as never).reduce((sum, one) => sum + one.decibans, 0);
  const bms = {
    slope: 0.9,
    slopeError: 0.1,
    offsetA: -0.7,
    offsetError: 0.1,
    comesAndGoes: 0.4,
    hours: null,
  };
  expect(weighed(bms) - weighed(null)).toBe(8);
});

test('chargers that show by parts far apart are no shunt of another size; by one part they are', () => {
  const weighed = (...shares: Share[]) => {
    const sources = ['one', 'two'].map((id) => ({ id, name: id }));
    const counting = { meters: { shares, bms: null }, logged: { from: 0, to: 1 } };
    return currentScale.weigh!({
      counting,
      system: { sources, monitor: { method: 'shunt' } },
    } as never).reduce((sum, one) => sum + one.decibans, 0);
  };
  expect(weighed(share('one', 1.3), share('two', 0.65))).toBeLessThan(0);
  expect(weighed(share('one', 1.3), share('two', 1.35))).toBeGreaterThan(9);
  // A load that shows in the same ratio is another witness; in another one it is none.
  const few = { ...share('one', 0.67), steps: 2 };
  const load = (of: number): Share => ({ ...share('pump', of), kind: 'load', steps: 40 });
  expect(weighed(few, load(0.67))).toBeGreaterThan(weighed(few));
  expect(weighed(few, load(0.95))).toBe(weighed(few));
});

test('what float shows is the zero where the monitor shows the charger wholly, and no other ran beside it', () => {
  const night = { from: 0, to: 8 * HOUR };
  const zero = (part: number, beside: object[], logged = 2) =>
    zeroAtFloat({
      system: { sources: [{ id: 'one' }, { id: 'two' }] },
      charging: [
        { source: { id: 'one' }, charges: [night], knowsOwnAmps: true },
        { source: { id: 'two' }, charges: beside, knowsOwnAmps: logged > 1 },
      ],
      counting: { meters: { atFloat: { amps: -0.9, spans: [night] }, shares: [share('one', part)] } },
    } as never);
  expect(zero(0.98, [])).toBe(-0.9);
  expect(zero(0.98, [{ from: 0, to: 3 * HOUR }])).toBe(-0.9);
  // Only an hour is left in which the other did not run.
  expect(zero(0.98, [{ from: HOUR, to: 8 * HOUR }])).toBe(0);
  expect(zero(0.5, [])).toBe(0);
  expect(zero(0.98, [], 1)).toBe(0);
});
