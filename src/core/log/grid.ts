/** Gaps, integration, and the even grid on which a log is judged. Counting always uses the samples themselves, never the grid. */

import type { Span } from '../quantity/span';
import { DAY, lengthOf, MINUTE } from '../quantity/span';
import { quantile } from '../quantity/numbers';

/** Median step between samples, ms. NaN for fewer than two samples. Looks at up to 10 000 steps spread over the log. */
export function medianStep(time: Float64Array): number {
  const known = stepsSeen.get(time);
  if (known !== undefined) return known;
  const steps: number[] = [];
  const stride = Math.max(1, Math.floor(time.length / 10_000));
  for (let i = stride; i < time.length; i += stride) steps.push(time[i]! - time[i - 1]!);
  const step = quantile(steps, 0.5);
  stepsSeen.set(time, step);
  return step;
}

/** Every integral asks for the step of its log: it is found once for each array of times. */
const stepsSeen = new WeakMap<Float64Array, number>();

/** A step longer than this is a gap: three times the usual step, but at least 2 min. ms. */
export const gapLimit = (step: number): number => Math.max(3 * step, 2 * MINUTE);

/** Where the log is silent. */
export function gapsIn(time: Float64Array): Span[] {
  const limit = gapLimit(medianStep(time));
  const gaps: Span[] = [];
  for (let i = 1; i < time.length; i++)
    if (time[i]! - time[i - 1]! > limit) gaps.push({ from: time[i - 1]!, to: time[i]! });
  return gaps;
}

/** First index whose time is at or after `ms`. */
export function firstAtOrAfter(time: Float64Array, ms: number): number {
  let low = 0;
  let high = time.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (time[middle]! < ms) low = middle + 1;
    else high = middle;
  }
  return low;
}

export interface Throughput {
  /** Ampere-hours in and out, both positive. Gaps are not integrated. */
  in: number;
  out: number;
  /** Hours that were integrated. */
  hours: number;
}

/**
 * Integrates a current over a span by the trapezoid rule between samples, cut at the span's ends.
 * @param amps A, positive into the battery; a NaN sample breaks the integral like a gap.
 */
export function integrate(time: Float64Array, amps: Float32Array, span: Span): Throughput {
  const limit = gapLimit(medianStep(time));
  const total: Throughput = { in: 0, out: 0, hours: 0 };
  const start = Math.max(1, firstAtOrAfter(time, span.from));
  for (let i = start; i < time.length && time[i - 1]! < span.to; i++) {
    const t0 = time[i - 1]!;
    const t1 = time[i]!;
    const a0 = amps[i - 1]!;
    const a1 = amps[i]!;
    if (t1 - t0 > limit || a0 !== a0 || a1 !== a1) continue;
    const from = Math.max(t0, span.from);
    const to = Math.min(t1, span.to);
    if (to <= from) continue;
    const middle = a0 + ((a1 - a0) * ((from + to) / 2 - t0)) / (t1 - t0);
    const hours = (to - from) / 3_600_000;
    if (middle > 0) total.in += middle * hours;
    else total.out -= middle * hours;
    total.hours += hours;
  }
  return total;
}

/**
 * An even grid of cells over the stretches in which a log has samples; cell i covers `step` ms from {@link cellStart}. Of a long silence
 * only a day or two is kept, whole days left out, so that the cells of a day keep their places in it and no grid spans empty years.
 */
export interface Grid {
  from: number;
  step: number;
  count: number;
  /** For each silence that was cut short: the cell before which it was cut, and how much was left out up to there, ms. Rising. */
  cuts: readonly { cell: number; ms: number }[];
}

/** A silence longer than this is cut short, ms. */
const LONG_SILENCE = 14 * DAY;
/** What is kept of it at least: a day, or a few cells where they are wide, ms. */
const keptOf = (cell: number): number => Math.max(DAY, 4 * cell);
/** More cells than these no log is judged on: the cells of a longer one are wider. */
const MOST_CELLS = 4_000_000;

/**
 * The grid on which a log is judged: one-minute cells, or the log's own step where that is longer.
 * @param step the log's median step, ms. @param time of the log, whose silences are cut short; without it the grid spans all
 */
export function judgingGrid(span: Span, step: number, time?: Float64Array): Grid {
  const silences = time ? longSilences(time, span) : [];
  const silent = silences.reduce((sum, one) => sum + lengthOf(one) - keptOf(step), 0);
  const widest = Math.ceil((span.to - span.from - silent) / MOST_CELLS / MINUTE) * MINUTE;
  const cell = Math.max(MINUTE, step, widest);
  const from = Math.floor(span.from / cell) * cell;
  const cuts: { cell: number; ms: number }[] = [];
  let ms = 0;
  for (const silence of silences) {
    const leftOut = lengthOf(silence) - keptOf(cell);
    // Whole days that are also whole cells: what follows keeps its place in the day and in its cells.
    const unit = DAY % cell === 0 ? DAY : cell;
    const cut = Math.floor(leftOut / unit) * unit;
    if (cut <= 0) continue;
    cuts.push({ cell: Math.floor((silence.to - keptOf(cell) / 2 - cut - ms - from) / cell), ms: ms + cut });
    ms += cut;
  }
  return { from, step: cell, count: Math.max(1, Math.floor((span.to - from - ms) / cell) + 1), cuts };
}

/** Silences so long that only a part of each is judged. */
export function longSilences(time: Float64Array, span: Span): Span[] {
  const limit = Math.max(LONG_SILENCE, 20 * medianStep(time));
  const found: Span[] = [];
  const first = firstAtOrAfter(time, span.from);
  let before = time[first]!;
  for (let i = first + 1; i < time.length; i++) {
    const now = time[i]!;
    if (now > span.to) break;
    if (now - before > limit) found.push({ from: before, to: now });
    before = now;
  }
  return found;
}

/** When a cell begins, epoch ms; of the cell behind the last, when the last ends. */
export function cellStart({ from, step, cuts }: Grid, cell: number): number {
  return from + cell * step + (lastCut(cuts, (one) => one.cell <= cell)?.ms ?? 0);
}

/** For each cell the part of the day in which it begins, counted in bins from midnight UTC. */
export function binsOfDay(grid: Grid, bin: number): Uint16Array {
  const bins = new Uint16Array(grid.count);
  for (let cell = 0; cell < grid.count; cell++) bins[cell] = Math.floor((cellStart(grid, cell) % DAY) / bin);
  return bins;
}

/** The cell that holds a moment; below 0 or beyond the last where the grid does not reach. */
export function cellOf({ from, step, cuts }: Grid, ms: number): number {
  const cut = lastCut(cuts, (one) => from + one.cell * step + one.ms <= ms);
  return Math.floor((ms - from - (cut?.ms ?? 0)) / step);
}

function lastCut<T>(cuts: readonly T[], holds: (cut: T) => boolean): T | undefined {
  if (cuts.length === 0) return undefined;
  let low = 0;
  let high = cuts.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(cuts[middle]!)) low = middle + 1;
    else high = middle;
  }
  return cuts[low - 1];
}

/**
 * Mean of a channel in each cell; a cell without a sample takes the line between its neighbours unless it lies in a gap, where
 * it is NaN.
 */
export function toGrid(time: Float64Array, values: Float32Array, grid: Grid): Float32Array {
  const out = new Float32Array(grid.count);
  const counts = new Uint32Array(grid.count);
  const sums = new Float64Array(grid.count);
  // Samples come in order: most lie in the cell of the one before.
  for (let i = 0; i < time.length;) {
    const at = cellOf(grid, time[i]!);
    const begins = cellStart(grid, at);
    const ends = begins + grid.step;
    let sum = 0;
    let seen = 0;
    do {
      const value = values[i]!;
      if (value === value) {
        sum += value;
        seen++;
      }
      i++;
    } while (i < time.length && time[i]! < ends && time[i]! >= begins);
    if (at < 0 || at >= grid.count) continue;
    sums[at]! += sum;
    counts[at]! += seen;
  }
  const reach = Math.max(1, Math.ceil(gapLimit(medianStep(time)) / grid.step));
  let last = -1;
  for (let cell = 0; cell < grid.count; cell++) {
    if (counts[cell] === 0) {
      out[cell] = NaN;
      continue;
    }
    out[cell] = sums[cell]! / counts[cell]!;
    if (last >= 0 && cell - last > 1 && cell - last <= reach)
      for (let k = last + 1; k < cell; k++)
        out[k] = out[last]! + ((out[cell]! - out[last]!) * (k - last)) / (cell - last);
    last = cell;
  }
  return out;
}

/** The number of an even grid of cells that hold a moment, clamped to the grid. */
export const cellAt = (grid: Grid, ms: number): number =>
  Math.min(grid.count - 1, Math.max(0, cellOf(grid, ms)));
