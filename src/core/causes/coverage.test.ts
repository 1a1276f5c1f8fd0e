/** Devices that the monitor shows, or does not: what one says of the others. */

import type { Share } from '../count/shares';
import { weighShares } from './coverage';

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
