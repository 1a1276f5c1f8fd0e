import { MINUTE } from '../quantity/span';
import { besideRows } from './phase';

const rows = (seconds: number, every = 60) =>
  Float64Array.from({ length: 1000 }, (_, i) => 1000 * (every * i + seconds));

test('rows that come as often are laid at the nearest of the other log, all by the same', () => {
  expect(besideRows(rows(-0.02), rows(0))[5]).toBeCloseTo(5 * MINUTE, 6);
  expect(besideRows(rows(25), rows(0))[5]).toBe(5 * MINUTE);
  expect(besideRows(rows(40), rows(0))[5]).toBe(6 * MINUTE);
});

test('as they are where they come as they should, or more often', () => {
  const same = rows(0);
  expect(besideRows(same, rows(0))).toBe(same);
  const often = rows(25, 10);
  expect(besideRows(often, rows(0))).toBe(often);
});

test('a silence of one of them tells nothing', () => {
  const silent = rows(10).filter((_, i) => i < 100 || i > 900);
  expect(besideRows(rows(0), silent)[5]).toBe(5 * MINUTE + 10_000);
});
