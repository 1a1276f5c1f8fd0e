/** Devices that the monitor shows, or does not: what one says of the others. */

import type { Share } from '../count/shares';
import { weighShares } from './coverage';
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
      bank: { capacityAh: 100 },
      system: { sources: [{ id: 'one', name: 'One', counted }], loads: [] },
      counting: {
        logged: { from: 0, to: 1 },
        offsetA: { value: -0.7, deviation },
        wrong: { gain: 1 },
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
