/** By how much a flow that nobody counts leaves the state open: anchors set down by hand. */

import type { Anchor } from './anchors';
import { unevenly } from './uneven';

const HOUR = 3_600_000;
const grid = { from: 0, step: HOUR, count: 48, cuts: [] };
const anchor = (kind: Anchor['kind'], hour: number): Anchor => ({
  kind,
  at: hour * HOUR,
  until: hour * HOUR,
  charge: 0.96,
  deviation: 0.02,
});

test('it is nothing at an anchor, grows with the hours from it, and no further than half a day', () => {
  const ah = unevenly(2, 0.1, [anchor('full', 10), anchor('full', 40)], grid)!;
  expect(ah[10]).toBe(0);
  expect(ah[15]! / ah[12]!).toBeCloseTo(2.5, 6);
  expect(ah[24]).toBe(ah[25]);
  expect(ah[20]).toBeLessThan(ah[22]!);
  // Never more than all of it in half a day.
  expect(Math.max(...ah)).toBeLessThan(2 * 12);
});

test('a rest under a load that nobody sees tells nothing of it', () => {
  const rest = unevenly(2, 0.1, [anchor('rest', 20), anchor('flat', 24), anchor('empty', 40)], grid)!;
  expect(rest[20]).toBeGreaterThan(0);
  expect(rest[24]).toBeGreaterThan(0);
  expect(rest[40]).toBe(0);
});

test('a zero that meters have leaves nothing open, either way', () => {
  expect(unevenly(0.3, 0.1, [anchor('full', 10)], grid)).toBeNull();
  expect(unevenly(-0.3, 0.1, [anchor('full', 10)], grid)).toBeNull();
  expect(unevenly(-2, 0.1, [anchor('full', 10)], grid)![20]).toBeGreaterThan(0);
});
