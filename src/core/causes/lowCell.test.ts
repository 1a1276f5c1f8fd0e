/** One low cell, two causes: which of them is shown follows from where it stands when the others are full. */

import type { Cells, CellFigures, Lag } from '../cells/types';
import type { Judged } from './cause';
import { cellImbalance } from './cell-imbalance';
import { weakCell } from './weak-cell';

const lag = (ampHours: number, spread = 1): Lag => ({
  ampHours,
  least: ampHours - Math.sign(ampHours) * spread,
  most: ampHours + Math.sign(ampHours) * spread,
  times: 8,
});
const none: Lag = { ampHours: NaN, least: NaN, most: NaN, times: 0 };
const level: CellFigures = {
  cell: '1',
  apart: { flat: 0, top: 0, bottom: 0 },
  firstHigh: 0,
  firstLow: 0,
  behindAtTop: { ampHours: 0, least: 0, most: 0, times: 8 },
  behindAtHigh: none,
  shortAtBottom: { ampHours: 0, least: 0, most: 0, times: 8 },
  fallsBehindADay: NaN,
  ohms: NaN,
  ohmsError: NaN,
};

/** A battery of 100 Ah whose second cell is low. */
function seen(own: Partial<CellFigures>, some: Partial<Cells> = {}): Judged {
  return {
    bank: { chemistry: 'lfp', cellsInSeries: 4, capacityAh: 100 },
    cutoffs: null,
    cells: {
      kind: 'cells',
      battery: null,
      capacityAh: 100,
      tops: 8,
      bottoms: 8,
      low: { cell: '2', times: 8, of: 8, apart: 0.5 },
      high: { cell: '1', times: 8, of: 8, apart: 0.05 },
      figures: [
        level,
        { ...level, cell: '2', apart: { flat: 0, top: -0.2, bottom: -0.6 }, firstLow: 8, ...own },
      ],
      ...some,
    },
  } as unknown as Judged;
}
const points = (judged: Judged) => {
  const sum = (cause: typeof weakCell) =>
    cause.weigh!(judged).reduce((total, one) => total + one.decibans, 0);
  return { weak: sum(weakCell), out: sum(cellImbalance) };
};

test('behind by as much at the top as at the bottom: out of step', () => {
  const { weak, out } = points(seen({ behindAtTop: lag(30, 4), shortAtBottom: lag(33) }));
  expect(out).toBeGreaterThan(14);
  expect(weak).toBeLessThan(2);
});

test('hardly behind at the top, far short at the bottom: it holds less', () => {
  const { weak, out } = points(seen({ behindAtTop: lag(1.8, 0.1), shortAtBottom: lag(33) }));
  expect(weak).toBeGreaterThan(12);
  expect(out).toBeLessThan(3);
});

test('first full and first empty: it holds less all the more', () => {
  const ahead = { behindAtTop: lag(-6), shortAtBottom: lag(20), apart: { flat: 0, top: 0.2, bottom: -0.5 } };
  const { weak, out } = points(seen(ahead));
  expect(weak).toBeGreaterThan(12);
  expect(out).toBeLessThan(1);
});

test('no charge got to the top: neither is preferred', () => {
  const { weak, out } = points(
    seen(
      { apart: { flat: 0, top: NaN, bottom: -0.6 }, behindAtTop: none, shortAtBottom: lag(25) },
      { tops: 0, high: null },
    ),
  );
  expect(weak).toBe(out);
});

test('no charge got to the top: a cell that stays as far behind is out of step, one that catches up holds less', () => {
  // Of 33 Ah, one that holds less catches up by 30 while 60 go in, and by 2 while 5 do.
  const at = (behind: number, chargedToHigh = 60) =>
    points(
      seen(
        {
          apart: { flat: -0.05, top: NaN, bottom: -0.6 },
          behindAtTop: none,
          behindAtHigh: lag(behind, 4),
          shortAtBottom: lag(33),
        },
        { tops: 0, high: null, chargedToHigh },
      ),
    );
  expect(at(29).out).toBeGreaterThan(at(29).weak + 8);
  expect(at(6).weak).toBeGreaterThan(at(6).out + 8);
  // Between the two, or with too little charged for either to show, neither is preferred.
  expect(at(18).out).toBe(at(18).weak);
  expect(at(32, 5).out).toBe(at(32, 5).weak);
  expect(at(29, -60).out).toBe(at(29, -60).weak);
});

test('now this cell, now that one, or a few millivolts: no cell is at fault', () => {
  const changing = points(seen({}, { low: { cell: '2', times: 3, of: 8, apart: 0.5 } }));
  const near = points(seen({}, { low: { cell: '2', times: 8, of: 8, apart: 0.02 } }));
  for (const { weak, out } of [changing, near]) expect(Math.max(weak, out)).toBeLessThan(0);
});

test('without cells nothing is said', () => {
  expect(points({ ...seen({}), cells: null })).toEqual({ weak: 0, out: 0 });
});

test('on the knee a fifth of an ampere-hour parts cells by a tenth of a volt: empty with the others, it is no low one', () => {
  const own = {
    shortAtBottom: { ampHours: 0.3, least: 0.26, most: 0.33, times: 8 },
    apart: { flat: 0, top: 0, bottom: -0.13 },
  };
  const { weak, out } = points(seen(own, { low: { cell: '2', times: 8, of: 8, apart: 0.12 } }));
  expect(weak).toBeLessThan(0);
  expect(out).toBeLessThan(0);
});
