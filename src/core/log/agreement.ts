/** How well two logs agree at each shift of the second. */

import { HOUR, type Span } from '../quantity/span';
import { firstAtOrAfter, gapLimit, type Grid, medianStep, toGrid } from './grid';

/** Slow swings, which any two days share, are taken out: what is left is what a site does at its own moments, ms. */
const SLOW = 3 * HOUR;

/** Correlation r, −1 to 1, where the second is shifted by a lag, ms. */
export interface Point {
  lag: number;
  r: number;
}

/** What two logs have seen of one thing. */
export interface TwoLogs {
  timeA: Float64Array;
  a: Float32Array;
  timeB: Float64Array;
  b: Float32Array;
  /** Hours were left out of one that the other has: each shift is then held together on what both know. */
  hasDead: boolean;
}

const gridOf = ({ from, to }: Span, step: number): Grid => ({
  from,
  step,
  count: Math.max(2, Math.floor((to - from) / step)),
  cuts: [],
});

/** Correlation of the two, slow swings taken out, for each shift of the second. @param step of the grid, ms. @param at shifts, ms */
export function correlations(
  { timeA, a, timeB, b, hasDead }: TwoLogs,
  window: Span,
  step: number,
  at: readonly number[],
): Point[] {
  const grid = gridOf(window, step);
  const x = partOnGrid(timeA, a, grid);
  const y = partOnGrid(timeB, b, grid);
  const shiftOf = (lag: number) => Math.round(lag / step);
  if (hasDead) return at.map((lag) => ({ lag, r: correlationOfBoth(x, y, shiftOf(lag), step) }));
  const [p, q] = [quickPart(x, step), quickPart(y, step)];
  return at.map((lag) => ({ lag, r: correlation(p, q, shiftOf(lag)) }));
}

/**
 * The same between samples: each log is read off at the moments of a grid, along the line between its samples, and the second is shifted
 * before it is read. Means of cells would lag behind by half of them, and not by the same in two logs of differing steps.
 * The shifts are halves of a step: the second is read off once on the grid and once half a step beside it, and slid along by whole steps.
 */
export function correlationsBetween(
  { timeA, a, timeB, b, hasDead }: TwoLogs,
  window: Span,
  step: number,
  at: readonly number[],
): Point[] {
  const grid = gridOf(window, step);
  const quick = (values: Float32Array) => (hasDead ? values : quickPart(values, step));
  const x = quick(readOff(timeA, a, grid));
  const halves = at.map((lag) => Math.round((2 * lag) / step));
  const slides = halves.map((one) => Math.floor(one / 2));
  const [least, most] = [Math.min(...slides), Math.max(...slides)];
  const slid = (beside: number) =>
    quick(
      readOff(timeB, b, {
        ...grid,
        from: grid.from - most * step - beside,
        count: grid.count + most - least,
      }),
    );
  const [onGrid, halfBeside] = [slid(0), slid(step / 2)];
  return at.map((lag, k) => {
    const shift = most - slides[k]!;
    const y = halves[k]! === 2 * slides[k]! ? onGrid : halfBeside;
    const part = y.subarray(shift, shift + grid.count);
    return { lag, r: hasDead ? correlationOfBoth(x, part, 0, step) : correlation(x, part, 0) };
  });
}

/** Values along the line between samples at the moments of a grid; NaN outside the log, in its gaps and beside missing samples. */
function readOff(time: Float64Array, values: Float32Array, { from, step, count }: Grid): Float32Array {
  const out = new Float32Array(count).fill(NaN);
  const limit = gapLimit(medianStep(time));
  let k = Math.max(1, firstAtOrAfter(time, from));
  for (let i = 0; i < count; i++) {
    const ms = from + i * step;
    while (k < time.length && time[k]! < ms) k++;
    if (k >= time.length) break;
    const before = time[k - 1]!;
    if (ms < before || time[k]! - before > limit) continue;
    out[i] = values[k - 1]! + ((values[k]! - values[k - 1]!) * (ms - before)) / (time[k]! - before);
  }
  return out;
}

/** Only the samples of the grid's span are looked at. */
export function partOnGrid(time: Float64Array, values: Float32Array, grid: Grid): Float32Array {
  const from = firstAtOrAfter(time, grid.from);
  const to = firstAtOrAfter(time, grid.from + grid.count * grid.step);
  return toGrid(time.subarray(from, to), values.subarray(from, to), grid);
}

/**
 * The same of what is left when slow swings are taken out of both, from the moments that both know: hours that the mean of one leaves out
 * would bend the other's.
 */
function correlationOfBoth(x: Float32Array, y: Float32Array, shift: number, step: number): number {
  const from = Math.max(0, -shift);
  const to = Math.min(y.length, x.length - shift);
  if (!(to > from)) return 0;
  const p = x.slice(from + shift, to + shift);
  const q = y.slice(from, to);
  for (let i = 0; i < p.length; i++) if (p[i] !== p[i] || q[i] !== q[i]) p[i] = q[i] = NaN;
  return correlation(quickPart(p, step), quickPart(q, step), 0);
}

/** Correlation of x[i + shift] with y[i] where both are known. */
function correlation(x: Float32Array, y: Float32Array, shift: number): number {
  let n = 0;
  let sx = 0;
  let sy = 0;
  let sxx = 0;
  let syy = 0;
  let sxy = 0;
  const from = Math.max(0, -shift);
  const to = Math.min(y.length, x.length - shift);
  for (let i = from; i < to; i++) {
    const p = x[i + shift]!;
    const q = y[i]!;
    if (p !== p || q !== q) continue;
    n++;
    sx += p;
    sy += q;
    sxx += p * p;
    syy += q * q;
    sxy += p * q;
  }
  if (n < 30) return 0;
  const vx = sxx - (sx * sx) / n;
  const vy = syy - (sy * sy) / n;
  return vx > 1e-9 && vy > 1e-9 ? (sxy - (sx * sy) / n) / Math.sqrt(vx * vy) : 0;
}

/** What is left when a running mean is taken off. */
export function quickPart(values: Float32Array, step: number): Float32Array {
  const half = Math.max(1, Math.round(SLOW / step / 2));
  const out = new Float32Array(values.length).fill(NaN);
  let sum = 0;
  let known = 0;
  const add = (value: number | undefined, sign: 1 | -1) => {
    if (value === undefined || value !== value) return;
    sum += sign * value;
    known += sign;
  };
  for (let i = 0; i < half; i++) add(values[i], 1);
  for (let i = 0; i < values.length; i++) {
    add(values[i + half], 1);
    add(values[i - half - 1], -1);
    if (known > half / 2) out[i] = values[i]! - sum / known;
  }
  return out;
}
