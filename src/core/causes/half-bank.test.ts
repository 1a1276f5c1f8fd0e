/** The halves of a bank by what their chargers did: charges set down by hand. */

import { held, seen, source, sumOf } from '../../../tests/support/drawnCharges';
import { DAY } from '../quantity/span';
import { halfBank } from './half-bank';

/** Charges that each fill a half, so many days long. */
const half = (across: 'lower' | 'upper', days: readonly number[]) => {
  const one = held(14.4, 13.7, 25, { source: { ...source, across } });
  const charge = one.charges[0]!;
  return { ...one, charges: days.map((long) => ({ ...charge, full: true, to: charge.from + long * DAY })) };
};
const filled = (lower: readonly number[], upper: readonly number[]) =>
  halfBank.weigh!(seen([half('lower', lower), half('upper', upper)])).filter((one) => one.group === 'filled');

const DAILY = [0.7, 0.7, 0.7, 0.7, 0.7, 0.7];

test('a half that is full once a week beside one that is full each day is charged too little', () => {
  expect(sumOf(filled(DAILY, [0.6, 0.6]))).toBeGreaterThan(5);
});

test('a charger that floats on for days keeps its half full on each of them', () => {
  const [one] = filled(DAILY, [3.8, 2.2]);
  expect(one!.decibans).toBeLessThan(0);
  expect(one!.text).toBe('The lower half was full on 6 days, the upper on 6.');
});
