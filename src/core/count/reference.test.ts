/** The true state of charge by what is drawn by hand: what a high rate costs, and what it does not. */

import { agm } from '../../../tests/support/drawnCharges';
import { HOUR, MINUTE } from '../quantity/span';
import type { Anchor } from './anchors';
import { referenceOf } from './reference';

const STEP = 10 * MINUTE;
const DAY = (24 * HOUR) / STEP;
const DAYS = 16;

/**
 * A battery of 100 Ah that is full each morning and gives 35 Ah: in one hour on one day, in seven on the next.
 * @param quick what the hour takes from it, parts of the capacity
 */
function after(quick: number) {
  const count = DAYS * DAY;
  const grid = { from: 0, step: STEP, count, cuts: [] };
  const column = () => new Float64Array(count);
  const through = { grid, in: column(), out: column(), hours: column().fill(STEP / HOUR), hidden: column() };
  const anchors: Anchor[] = [];
  const known = (at: number, charge: number, kind: Anchor['kind'], deviation: number) =>
    anchors.push({ kind, at, until: at, charge, deviation });
  for (let day = 0; day < DAYS; day++) {
    const from = day * DAY;
    const hours = day % 2 === 0 ? 1 : 7;
    const takes = hours === 1 ? quick : 0.35;
    known((from + 6) * STEP, 0.96, 'full', 0.022);
    for (let k = 0; k < 6 * hours; k++) through.out[from + 12 + k] = 35 / (6 * hours);
    known((from + 66) * STEP, 0.96 - takes, 'empty', 0.03);
    // Back in ten hours, with the usual losses.
    for (let k = 0; k < 60; k++) through.in[from + 70 + k] = (100 * takes) / 0.94 / 60;
  }
  return referenceOf({ bank: agm, through, anchors });
}

test('a battery that loses by its rate what Peukert’s law says has lost no capacity', () => {
  // W. Peukert, Elektrotechnische Zeitschrift 20, 1897: at seven times the rate of twenty hours an exponent of 1.2 makes 1.476 of each Ah.
  const { capacityAh } = after(0.35 * 7 ** 0.2);
  expect(capacityAh.value).toBeGreaterThan(92);
  expect(capacityAh.value).toBeLessThan(108);
});

test('nor has it where the rate costs nothing', () => {
  const { capacityAh } = after(0.35);
  expect(capacityAh.value).toBeGreaterThan(92);
  expect(capacityAh.value).toBeLessThan(108);
});

test('a battery that holds less than half of its label is counted about that, though its charges lose a fifth', () => {
  const holds = 45;
  const count = DAYS * DAY;
  const grid = { from: 0, step: STEP, count, cuts: [] };
  const column = () => new Float64Array(count);
  const through = { grid, in: column(), out: column(), hours: column().fill(STEP / HOUR), hidden: column() };
  const anchors: Anchor[] = [];
  for (let day = 0; day < DAYS; day++) {
    const from = day * DAY;
    const known = (cell: number, charge: number, kind: Anchor['kind'], deviation: number) =>
      anchors.push({ kind, at: (from + cell) * STEP, until: (from + cell) * STEP, charge, deviation });
    known(6, 0.96, 'full', 0.022);
    for (let k = 0; k < 42; k++) through.out[from + 12 + k] = 42 / 42;
    known(33, 0.96 - 18 / holds, 'rest', 0.07);
    known(66, 0.96 - 42 / holds, 'rest', 0.07);
    for (let k = 0; k < 60; k++) through.in[from + 70 + k] = 42 / 0.8 / 60;
  }
  const { capacityAh, percent, deviation } = referenceOf({ bank: agm, through, anchors });
  expect(Math.abs(capacityAh.value / holds - 1)).toBeLessThan(0.25);
  const empty = 5 * DAY + 66;
  expect(Math.abs(percent[empty]! - 100 * (0.96 - 42 / holds))).toBeLessThan(2 * deviation[empty]!);
});
