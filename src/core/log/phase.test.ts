import { MINUTE } from '../quantity/span';
import { besideRows } from './phase';

const rows = (seconds: number, every = 60) =>
  Float64Array.from({ length: 1000 }, (_, i) => 1000 * (every * i + seconds));

test('rows that come as often are laid at the nearest of the other log, all by the same', () => {
  expect(besideRows(rows(-0.02), rows(0))[5]).toBeCloseTo(5 * MINUTE, 6);
  expect(besideRows(rows(25), rows(0))[5]).toBe(5 * MINUTE);
  expect(besideRows(rows(40), rows(0))[5]).toBe(6 * MINUTE);
});

test('rows that are written to the second lie at those that are not, none a cell beside it', () => {
  // A clock that was set right by 25.2 s a day: a row lies up to a second either way.
  const rough = rows(0).map((ms, i) => ms - 900 + (i % 3) * 700);
  const laid = besideRows(rough, rows(0));
  expect(laid).toEqual(rows(0));
  // A row in between is left there.
  expect(
    besideRows(Float64Array.from([...rows(0).slice(0, 900), 900 * MINUTE + 28_000]), rows(0)).at(-1),
  ).toBe(900 * MINUTE + 28_000);
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
