import { lithium } from '../../../tests/support/drawnCharges';
import type { KnownSystem } from '../system/known';
import type { Found } from './alike';
import type { Drop } from './drops';
import { withoutFarUnder } from './farUnder';

const load = { id: 'load' } as Drop['load'];
const cut = (shown: number, shownFalls = 0.2, ranMs = 600_000): Found => {
  const moment = { shown, shownFalls } as Drop['moment'];
  return { drop: { load, ranMs, moment } as Drop, at: shown, by: 'load', why: 'percent', moment };
};
const left = (found: Found[], percents = [36]) =>
  withoutFarUnder(
    found,
    {
      bank: lithium,
      loads: percents.map((cutoffPercent) => ({ id: 'load', cutoffPercent })),
    } as unknown as KnownSystem,
    (drop) => drop.ranMs < 120_000,
  ).map((one) => one.moment.shown);

test('what ran on under a percentage, where others were cut at it, has ended by itself', () => {
  const at = [cut(35.9), cut(36), cut(35.8)];
  expect(left([...at, cut(33.6)])).toEqual([35.9, 36, 35.8]);
  // Where the reading falls by three points between two samples nothing is far; nor is what was let go as it began.
  expect(left([...at, cut(33.6, 3)])).toHaveLength(4);
  expect(left([...at, cut(33.6, 0.2, 60_000)])).toHaveLength(4);
  // A load may have two percentages.
  expect(left([...at, cut(33.6)], [36, 34])).toHaveLength(4);
});

test('a device whose percentage lies under the reading as a rule goes by its own', () => {
  expect(left([33.7, 33.6, 33.8, 33.6].map((shown) => cut(shown)))).toHaveLength(4);
  expect(left([cut(36), cut(33.6)])).toHaveLength(2);
});
