/** How far the clocks of two logs are apart, from a voltage that both have seen. */

import { DAY, HOUR, lengthOf, MINUTE, type Span } from '../quantity/span';
import { type Series, spanOf } from './channels';
import { medianStep, toGrid } from './grid';

export interface ClockOffset {
  /** To be added to the times of `second` so that they agree with `first`, ms. */
  ms: number;
  /** Correlation of the two voltages once shifted, and as they stand, −1 to 1. */
  shifted: number;
  unshifted: number;
  /** How far the best shift stands out from every other, an hour and more away and not a day apart; 0 to 1. */
  distinct: number;
  /** Where the two logs overlap, unshifted. */
  overlap: Span;
}

/** Zones and a day that was mistyped are within this, ms. */
const WIDEST = 26 * HOUR;
const COARSE = 5 * MINUTE;
/** Slow swings, which any two days share, are taken out: what is left is what a site does at its own moments, ms. */
const SLOW = 3 * HOUR;

const voltsOf = ({ channels }: Series): Float32Array | undefined =>
  channels.battery_voltage ?? channels.source_voltage ?? channels.load_voltage;

/** Null when the two share no voltage or overlap by less than half a day. */
export function clockOffset(first: Series, second: Series): ClockOffset | null {
  const a = voltsOf(first);
  const b = voltsOf(second);
  if (!a || !b) return null;
  const one = spanOf(first);
  const two = spanOf(second);
  const overlap = { from: Math.max(one.from, two.from), to: Math.min(one.to, two.to) };
  if (lengthOf(overlap) < 12 * HOUR) return null;

  // A few weeks tell as much as a year.
  const window = { from: overlap.from, to: Math.min(overlap.to, overlap.from + 28 * 24 * HOUR) };
  const step = Math.max(COARSE, medianStep(first.time), medianStep(second.time));
  const coarse = correlations(first.time, a, second.time, b, window, step, lags(-WIDEST, WIDEST, step));
  const rough = nearest(coarse);
  if (!rough) return null;

  const fine = Math.max(MINUTE, medianStep(first.time), medianStep(second.time));
  const near = correlations(
    first.time,
    a,
    second.time,
    b,
    window,
    fine,
    lags(rough.lag - 2 * step, rough.lag + 2 * step, fine),
  );
  const peak = best(near) ?? rough;
  const elsewhere = Math.max(
    0,
    ...coarse
      .filter((point) => Math.abs(point.lag - peak.lag) > HOUR && !apartByDays(point.lag, peak.lag))
      .map((point) => point.r),
  );
  const still = correlations(first.time, a, second.time, b, window, fine, [0])[0]!;
  return {
    ms: Math.round(vertex(near, peak)),
    shifted: peak.r,
    unshifted: still.r,
    distinct: Math.max(0, peak.r - elsewhere),
    overlap,
  };
}

interface Point {
  lag: number;
  r: number;
}

function lags(from: number, to: number, step: number): number[] {
  const out: number[] = [];
  for (let lag = Math.ceil(from / step) * step; lag <= to; lag += step) out.push(lag);
  return out;
}

/** Correlation of the two voltages, slow swings taken out, for each shift of the second. */
function correlations(
  timeA: Float64Array,
  a: Float32Array,
  timeB: Float64Array,
  b: Float32Array,
  window: Span,
  step: number,
  at: readonly number[],
): Point[] {
  const grid = { from: window.from, step, count: Math.max(2, Math.floor(lengthOf(window) / step)) };
  const x = quickPart(toGrid(timeA, a, grid), step);
  const y = quickPart(toGrid(timeB, b, grid), step);
  return at.map((lag) => ({ lag, r: correlation(x, y, Math.round(lag / step)) }));
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
function quickPart(values: Float32Array, step: number): Float32Array {
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

const best = (points: readonly Point[]): Point | null =>
  points.reduce<Point | null>((top, point) => (top === null || point.r > top.r ? point : top), null);

/** Days of a site resemble each other: of shifts that are a day apart and fit alike, the smallest is taken. */
function nearest(points: readonly Point[]): Point | null {
  const top = best(points);
  if (!top) return null;
  const alike = points.filter((point) => point.r > top.r - ALIKE && apartByDays(point.lag, top.lag));
  return alike.reduce(
    (least, point) => (Math.abs(point.lag) < Math.abs(least.lag) - HOUR ? point : least),
    top,
  );
}

/** Correlations that differ by less fit alike. */
const ALIKE = 0.03;

/** Whether two shifts differ by a whole number of days, within half an hour. */
function apartByDays(a: number, b: number): boolean {
  const rest = Math.abs(a - b) % DAY;
  return Math.min(rest, DAY - rest) <= HOUR / 2;
}

/** The top of a parabola through the best point and its neighbours. */
function vertex(points: readonly Point[], peak: Point): number {
  const i = points.indexOf(peak);
  const before = points[i - 1];
  const after = points[i + 1];
  if (!before || !after) return peak.lag;
  const bend = before.r - 2 * peak.r + after.r;
  return bend < 0 ? peak.lag + ((before.r - after.r) / (2 * bend)) * (after.lag - peak.lag) : peak.lag;
}
