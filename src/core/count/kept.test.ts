import { HOUR, MINUTE } from '../quantity/span';
import type { Anchor } from './anchors';
import { gassedCells, GASSING } from './kept';
import { throughOf } from './through';

/** A hundred ampere-hours, a row every five minutes. */
const grid = { from: 0, step: 5 * MINUTE, count: 24 * 12, cuts: [] };
const gassed = (amps: (hour: number) => number, anchor: Partial<Anchor> = {}, isAbove = 1) => {
  const time = Float64Array.from({ length: grid.count }, (_, i) => i * grid.step);
  const through = throughOf(
    time,
    time.map((at) => amps(at / HOUR)),
    grid,
  );
  const begins = {
    kind: 'absorption',
    at: 2 * HOUR,
    until: 2 * HOUR,
    charge: 0.95,
    deviation: 0.05,
    ...anchor,
  };
  return gassedCells([begins as Anchor], through, 100, new Uint8Array(grid.count).fill(isAbove));
};
const at = (cells: Uint8Array, hour: number) => cells[Math.round((hour * HOUR) / grid.step)];

test('what goes in beyond what lead can have lacked is gas', () => {
  // 5 % and twice the doubt of 5 %, and a fifth more: 18 Ah. At 10 A that is 1.8 hours.
  const cells = gassed((hour) => (hour < 8 ? 10 : 0));
  expect(at(cells, 1.5)).toBe(0);
  expect(at(cells, 3)).toBe(GASSING.some);
  expect(at(cells, 3.6)).toBe(GASSING.some);
  expect(at(cells, 4.1)).toBe(GASSING.all);
  expect(at(cells, 7)).toBe(GASSING.all);
});

test('a battery that is drawn upon takes a charge again', () => {
  const cells = gassed((hour) => (hour < 8 ? 10 : hour < 9 ? -10 : 10));
  expect(at(cells, 7)).toBe(GASSING.all);
  expect(at(cells, 10)).toBe(0);
});

test('within its range lead takes little: what goes in and is not kept is another matter', () => {
  expect(gassed(() => 10, {}, 0).every((one) => one === 0)).toBe(true);
});

test('only the beginning of an absorption tells what is lacking', () => {
  expect(gassed(() => 10, { kind: 'rest' }).every((one) => one === 0)).toBe(true);
});
