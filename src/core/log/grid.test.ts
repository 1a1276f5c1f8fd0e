import fc from 'fast-check';
import { HOUR, MINUTE } from '../quantity/span';
import {
  cellAt,
  firstAtOrAfter,
  gapLimit,
  gapsIn,
  integrate,
  judgingGrid,
  medianStep,
  toGrid,
  cellOf,
  cellStart,
} from './grid';
import { sliceExtent, summarise } from './pyramid';
import { bucketMs, levelFor, TILE_BUCKETS, tileSpan, tilesIn } from './tiles';

const START = Date.UTC(2026, 0, 1);
const every = (step: number, count: number) =>
  Float64Array.from({ length: count }, (_, i) => START + i * step);

describe('gaps', () => {
  test('a step longer than three usual ones, and two minutes, is a gap', () => {
    const time = Float64Array.from([0, 1, 2, 3, 9, 10, 11, 12].map((m) => START + m * MINUTE));
    expect(medianStep(time)).toBe(MINUTE);
    expect(gapsIn(time)).toEqual([{ from: START + 3 * MINUTE, to: START + 9 * MINUTE }]);
    expect(gapLimit(1000)).toBe(2 * MINUTE);
    expect(gapLimit(10 * MINUTE)).toBe(30 * MINUTE);
  });
});

describe('integration (trapezoid rule)', () => {
  test('a constant current over an hour', () => {
    const time = every(MINUTE, 61);
    const through = integrate(time, new Float32Array(61).fill(-6), { from: START, to: START + HOUR });
    expect(through).toEqual({ in: 0, out: expect.closeTo(6, 9), hours: expect.closeTo(1, 9) });
  });

  test('a half sine agrees with the integral known in closed form', () => {
    const time = every(10_000, 361);
    const amps = Float32Array.from({ length: 361 }, (_, i) => 10 * Math.sin((Math.PI * i) / 360));
    expect(integrate(time, amps, { from: START, to: START + HOUR }).in).toBeCloseTo(20 / Math.PI, 3);
  });

  test('nothing is integrated over a gap or a missing sample', () => {
    const time = Float64Array.from([0, 1, 2, 62, 63, 64].map((m) => START + m * MINUTE));
    const whole = { from: START, to: START + 2 * HOUR };
    expect(integrate(time, new Float32Array(6).fill(60), whole).in).toBeCloseTo(4, 6);
    expect(integrate(time, Float32Array.from([60, NaN, 60, 60, 60, 60]), whole).in).toBeCloseTo(2, 6);
  });

  test('spans that touch add up to their union', () => {
    fc.assert(
      fc.property(
        fc.array(fc.float({ min: -50, max: 50, noNaN: true }), { minLength: 5, maxLength: 80 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (values, part) => {
          const time = every(MINUTE, values.length);
          const amps = Float32Array.from(values);
          const to = time[time.length - 1]!;
          const cut = START + part * (to - START);
          const net = (from: number, end: number) => {
            const { in: into, out } = integrate(time, amps, { from, to: end });
            return into - out;
          };
          expect(net(START, cut) + net(cut, to)).toBeCloseTo(net(START, to), 6);
        },
      ),
    );
  });
});

describe('the judging grid', () => {
  test('cells are a minute, or the log’s own step', () => {
    expect(judgingGrid({ from: START, to: START + HOUR }, 1000).step).toBe(MINUTE);
    expect(judgingGrid({ from: START, to: START + HOUR }, 10 * MINUTE)).toEqual({
      from: START,
      step: 10 * MINUTE,
      count: 7,
      cuts: [],
    });
  });

  test('a cell is the mean of its samples; empty ones are filled, gaps are not', () => {
    const time = every(20_000, 9);
    const values = Float32Array.from([1, 2, 3, 4, 5, 6, 7, 8, 9]);
    const grid = judgingGrid({ from: START, to: time[8]! }, 20_000);
    expect(Array.from(toGrid(time, values, grid))).toEqual([2, 5, 8]);
    const sparse = Float64Array.from([0, 2, 4, 30, 32].map((m) => START + m * MINUTE));
    const filled = toGrid(sparse, Float32Array.from([1, 3, 5, 7, 9]), {
      from: START,
      step: MINUTE,
      count: 33,
      cuts: [],
    });
    expect(filled[1]).toBe(2);
    expect(filled[20]).toBeNaN();
    expect(cellAt(grid, START + 10 * HOUR)).toBe(grid.count - 1);
  });

  test('of long silences a day or two is kept; days and cells keep their places', () => {
    const day = 24 * HOUR;
    const part = (from: number) => Array.from({ length: 2 * 1440 }, (_, i) => from + i * MINUTE);
    const years = 100 * 365;
    const time = Float64Array.from([...part(START), ...part(START + 90 * day), ...part(START + years * day)]);
    const grid = judgingGrid({ from: START, to: time.at(-1)! }, MINUTE, time);
    expect(grid.cuts).toHaveLength(2);
    expect(grid.count).toBeLessThan(11 * 1440);
    let last = -1;
    for (const ms of time) {
      const cell = cellOf(grid, ms);
      expect(cell).toBeGreaterThan(last);
      expect(cellStart(grid, cell)).toBe(ms);
      // A cell of the day is still that cell of its day.
      expect(cell % 1440).toBe(((ms - START) / MINUTE) % 1440);
      last = cell;
    }
    expect(last).toBe(grid.count - 1);
    const ones = new Float32Array(time.length).fill(1);
    const known = toGrid(time, ones, grid).reduce((sum, one) => sum + (one === 1 ? 1 : 0), 0);
    expect(known).toBe(time.length);
    // Without cuts the end of one stretch and the start of the next are a day apart at least.
    expect(cellOf(grid, START + 90 * day) - cellOf(grid, time[2 * 1440 - 1]!)).toBeGreaterThanOrEqual(1440);
  });

  test('whatever the samples, the grid is no larger than can be judged', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 40 * 24 * 60 }), { minLength: 2, maxLength: 300 }),
        fc.constantFrom(1, 13, 4000),
        (steps, stretch) => {
          let at = START;
          const time = Float64Array.from(steps, (step) => (at += step * stretch * MINUTE));
          const grid = judgingGrid({ from: time[0]!, to: at }, medianStep(time), time);
          expect(grid.count).toBeLessThanOrEqual(4_000_001);
          const cells = Array.from(time, (ms) => cellOf(grid, ms));
          cells.forEach((cell, i) => {
            expect(cell).toBeGreaterThanOrEqual(i === 0 ? 0 : cells[i - 1]!);
            expect(cell).toBeLessThan(grid.count);
            expect(Math.abs(cellStart(grid, cell) - time[i]!)).toBeLessThanOrEqual(grid.step);
          });
        },
      ),
    );
  });

  test('look-up by time', () => {
    const time = every(MINUTE, 5);
    expect(firstAtOrAfter(time, START + 90_000)).toBe(2);
    expect(firstAtOrAfter(time, START - 1)).toBe(0);
    expect(firstAtOrAfter(time, START + HOUR)).toBe(5);
  });
});

describe('what strips are drawn from', () => {
  test('a summary keeps every extreme', () => {
    fc.assert(
      fc.property(fc.array(fc.float({ noNaN: true }), { minLength: 1, maxLength: 300 }), (list) => {
        const values = Float32Array.from(list);
        const { min, max } = summarise(values, 16);
        expect(min.length).toBe(Math.ceil(values.length / 16));
        expect(Math.min(...min)).toBe(Math.min(...values));
        expect(Math.max(...max)).toBe(Math.max(...values));
      }),
    );
    expect(summarise(Float32Array.from([NaN, NaN]), 2).min[0]).toBeNaN();
    for (const far of [Infinity, -Infinity])
      expect(summarise(Float32Array.from([far, NaN]), 2)).toEqual({
        min: Float32Array.from([far]),
        max: Float32Array.from([far]),
      });
  });

  test('slices of a span hold the extremes of their samples, empty ones nothing', () => {
    const time = every(MINUTE, 120);
    const values = Float32Array.from({ length: 120 }, (_, i) => i);
    const { min, max } = sliceExtent(time, { min: values, max: values }, START, START + 4 * HOUR, 4);
    expect(Array.from(min.slice(0, 2))).toEqual([0, 60]);
    expect(Array.from(max.slice(0, 2))).toEqual([59, 119]);
    expect(min[2]).toBeNaN();
  });

  test('tiles of a level cover a span without overlap, and the level fits the pixel', () => {
    for (const msPerPixel of [900, 30_000, 1_000_000]) {
      const level = levelFor(msPerPixel);
      expect(bucketMs(level)).toBeLessThanOrEqual(Math.max(1000, msPerPixel));
      expect(bucketMs(level) * 2).toBeGreaterThan(msPerPixel);
      const span = { from: START + 12_345, to: START + 9_876_543 };
      const tiles = tilesIn(level, span).map((index) => tileSpan(level, index));
      expect(tiles[0]!.from).toBeLessThanOrEqual(span.from);
      expect(tiles.at(-1)!.to).toBeGreaterThanOrEqual(span.to);
      for (let i = 1; i < tiles.length; i++) expect(tiles[i]!.from).toBe(tiles[i - 1]!.to);
      expect(tiles[0]!.to - tiles[0]!.from).toBe(TILE_BUCKETS * bucketMs(level));
    }
  });
});
