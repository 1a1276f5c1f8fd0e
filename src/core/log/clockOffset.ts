/** How far the clocks of two logs are apart, and how fast they part, from what both have seen. */

import { median, theilSen } from '../quantity/numbers';
import { DAY, HOUR, lengthOf, MINUTE, type Span } from '../quantity/span';
import { type Series, spanOf } from './channels';
import { firstAtOrAfter, gapLimit, type Grid, medianStep, toGrid } from './grid';

export interface ClockOffset {
  /** To be added to the first time of `second` so that it agrees with `first`, ms. */
  ms: number;
  /** To be added on top for every day since, s; 0 where the clocks do not part by enough to be seen. */
  secondsPerDay: number;
  /** What both have seen and was held together. */
  seen: 'voltage' | 'current';
  /** Correlation of what both have seen once shifted, and as they stand, −1 to 1. */
  shifted: number;
  unshifted: number;
  /** How far the best shift stands out from every other, an hour and more away and not a day apart; 0 to 1. */
  distinct: number;
  /** Whether the shift is beyond doubt, and so large that it matters beside how often was sampled. */
  sure: boolean;
  /** Where the two logs overlap, unshifted. */
  overlap: Span;
}

/** Zones and a day that was mistyped are within this, ms. */
const WIDEST = 26 * HOUR;
const COARSE = 5 * MINUTE;
/** Slow swings, which any two days share, are taken out: what is left is what a site does at its own moments, ms. */
const SLOW = 3 * HOUR;
/** A few weeks tell as much as a year. */
const LONGEST = 28 * DAY;

/**
 * The shifted signals must agree at least so well, better than unshifted by so much, and better than at any other shift: well with a
 * small margin, or, as in logs of few samples, fairly with a large one.
 */
const ENOUGH = [
  { agree: 0.7, better: 0.04, distinct: 0.04 },
  { agree: 0.5, better: 0.25, distinct: 0.25 },
];

export const voltsOf = ({ channels }: Series): Float32Array | undefined =>
  channels.battery_voltage ?? channels.source_voltage ?? channels.load_voltage;

export const ampsOf = ({ channels }: Series): Float32Array | undefined =>
  channels.battery_current ?? channels.source_current ?? channels.load_current?.map((one) => -one);

/** Part of its usual voltage under which a bus is dead. */
const DEAD = 0.4;

/** A meter behind what let go shows a dead bus, one before it the battery: what they show then is not the same, and is left out. */
function alive(volts: Float32Array | undefined): Float32Array | undefined {
  if (!volts) return volts;
  const dead = DEAD * median(volts);
  return volts.some((one) => one < dead) ? volts.map((one) => (one < dead ? NaN : one)) : volts;
}

/** Null when the two have seen nothing in common or overlap by less than half a day. Voltage decides; current where it does not. */
export function clockOffset(first: Series, second: Series): ClockOffset | null {
  const one = spanOf(first);
  const two = spanOf(second);
  const overlap = { from: Math.max(one.from, two.from), to: Math.min(one.to, two.to) };
  if (lengthOf(overlap) < 12 * HOUR) return null;
  const byVolts = heldTogether(
    first,
    alive(voltsOf(first)),
    second,
    alive(voltsOf(second)),
    'voltage',
    overlap,
  );
  if (byVolts?.sure || (byVolts && byVolts.shifted > WELL)) return byVolts;
  const byAmps = heldTogether(first, ampsOf(first), second, ampsOf(second), 'current', overlap);
  if (byAmps?.sure && isLoad(second) && !canBe(byAmps, first, second))
    return byVolts ?? { ...byAmps, sure: false };
  return byAmps?.sure ? byAmps : (byVolts ?? byAmps);
}

const isLoad = ({ channels }: Series): boolean =>
  !channels.battery_current && !channels.source_current && channels.load_current !== undefined;

/** A load is a part of what the battery’s current does, and agrees with it no better than its part allows, by so much. */
const PART_OF = 1.4;

/** Whether a load's steps can be what was found again in the other current: a charger that starts each day near by is ten times as large. */
function canBe({ shifted, overlap }: ClockOffset, first: Series, load: Series): boolean {
  const step = Math.max(COARSE, medianStep(first.time), medianStep(load.time));
  const count = Math.max(2, Math.floor(Math.min(lengthOf(overlap), LONGEST) / step));
  const grid = { from: overlap.from, step, count, cuts: [] };
  const swing = (of: Series) => deviation(quickPart(partOnGrid(of.time, ampsOf(of)!, grid), step));
  return shifted <= (PART_OF * swing(load)) / swing(first);
}

/** Standard deviation of what is known. */
function deviation(values: Float32Array): number {
  const known = values.filter((one) => one === one);
  const middle = known.reduce((a, b) => a + b, 0) / known.length;
  return Math.sqrt(known.reduce((a, b) => a + (b - middle) ** 2, 0) / known.length);
}

/** Voltages that agree so well need no second opinion. */
const WELL = 0.8;

function heldTogether(
  first: Series,
  a: Float32Array | undefined,
  second: Series,
  b: Float32Array | undefined,
  seen: ClockOffset['seen'],
  overlap: Span,
): ClockOffset | null {
  if (!a || !b) return null;
  const window = { from: overlap.from, to: Math.min(overlap.to, overlap.from + LONGEST) };
  const slower = Math.max(medianStep(first.time), medianStep(second.time));
  const at = (span: Span, step: number, shifts: readonly number[]) =>
    correlations(first.time, a, second.time, b, span, step, shifts);
  const closely = (span: Span, step: number, shifts: readonly number[]) =>
    correlationsBetween(first.time, a, second.time, b, span, step, shifts);
  const step = Math.max(COARSE, slower);
  const coarse = at(window, step, lags(-WIDEST, WIDEST, step));
  const rough = nearest(coarse);
  if (!rough) return null;

  const fine = Math.max(MINUTE, slower);
  const near = closely(window, fine, lags(rough.lag - 2 * step, rough.lag + 2 * step, fine / 2));
  const peak = best(near) ?? rough;
  const elsewhere = Math.max(
    0,
    ...coarse
      .filter((point) => Math.abs(point.lag - peak.lag) > HOUR && !apartByDays(point.lag, peak.lag))
      .map((point) => point.r),
  );
  const unshifted = closely(window, fine, [0])[0]!.r;
  const distinct = Math.max(0, peak.r - elsewhere);
  const middle = vertex(near, peak);
  const worth = Math.max(2 * MINUTE, 1.5 * slower);
  const drift = driftOf((span) => {
    const points = closely(span, fine, lags(peak.lag - 2 * step, peak.lag + 2 * step, fine / 2));
    const top = best(points);
    return top && top.r > 0.5 ? vertex(points, top) : NaN;
  }, window);
  const parted = Math.abs(drift.perDay) * (lengthOf(window) / DAY) >= worth && drift.certain;
  const days = (moment: number) => (moment - spanOf(second).from) / DAY;
  const atStart = parted ? drift.middle - drift.perDay * days((window.from + window.to) / 2) : middle;
  const enough = ENOUGH.some(
    (limit) => peak.r >= limit.agree && peak.r - unshifted >= limit.better && distinct >= limit.distinct,
  );
  return {
    ms: Math.round(atStart),
    secondsPerDay: parted ? Number((drift.perDay / 1000).toFixed(1)) : 0,
    seen,
    shifted: peak.r,
    unshifted,
    distinct,
    sure: (enough && Math.abs(middle) >= worth) || (parted && peak.r >= 0.5 && distinct >= 0.04),
    overlap,
  };
}

/** A part of the log that a shift is looked for in, ms: long enough to hold charges, short enough to show a clock running away. */
const PART = 3 * DAY;

/** How the shift moves over the log: ms a day, in the middle of it, and whether its parts agree on that. */
function driftOf(shiftIn: (span: Span) => number, window: Span) {
  const parts = Math.floor(lengthOf(window) / PART);
  const days: number[] = [];
  const shifts: number[] = [];
  for (let i = 0; i < parts; i++) {
    const shift = shiftIn({ from: window.from + i * PART, to: window.from + (i + 1) * PART });
    if (shift !== shift) continue;
    days.push(((i + 0.5) * PART - lengthOf(window) / 2) / DAY);
    shifts.push(shift);
  }
  if (shifts.length < 4) return { perDay: 0, middle: 0, certain: false };
  const slope = theilSen(days, shifts);
  const intercept = median(shifts.map((shift, i) => shift - slope * days[i]!));
  const range = Math.abs(slope) * (days.at(-1)! - days[0]!);
  const off = shifts.filter((shift, i) => Math.abs(shift - intercept - slope * days[i]!) > range / 4).length;
  return { perDay: slope, middle: intercept, certain: off <= shifts.length / 5 };
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
  const grid = { from: window.from, step, count: Math.max(2, Math.floor(lengthOf(window) / step)), cuts: [] };
  const x = quickPart(partOnGrid(timeA, a, grid), step);
  const y = quickPart(partOnGrid(timeB, b, grid), step);
  return at.map((lag) => ({ lag, r: correlation(x, y, Math.round(lag / step)) }));
}

/**
 * The same between samples: each log is read off at the moments of a grid, along the line between its samples, and the second is shifted
 * before it is read. Means of cells would lag behind by half of them, and not by the same in two logs of differing steps.
 * The shifts are halves of a step: the second is read off once on the grid and once half a step beside it, and slid along by whole steps.
 */
function correlationsBetween(
  timeA: Float64Array,
  a: Float32Array,
  timeB: Float64Array,
  b: Float32Array,
  window: Span,
  step: number,
  at: readonly number[],
): Point[] {
  const grid = { from: window.from, step, count: Math.max(2, Math.floor(lengthOf(window) / step)), cuts: [] };
  const x = quickPart(readOff(timeA, a, grid), step);
  const halves = at.map((lag) => Math.round((2 * lag) / step));
  const slides = halves.map((one) => Math.floor(one / 2));
  const [least, most] = [Math.min(...slides), Math.max(...slides)];
  const slid = (beside: number) =>
    quickPart(
      readOff(timeB, b, {
        ...grid,
        from: grid.from - most * step - beside,
        count: grid.count + most - least,
      }),
      step,
    );
  const [onGrid, halfBeside] = [slid(0), slid(step / 2)];
  return at.map((lag, k) => {
    const shift = most - slides[k]!;
    const y = halves[k]! === 2 * slides[k]! ? onGrid : halfBeside;
    return { lag, r: correlation(x, y.subarray(shift, shift + grid.count), 0) };
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
function partOnGrid(time: Float64Array, values: Float32Array, grid: Grid): Float32Array {
  const from = firstAtOrAfter(time, grid.from);
  const to = firstAtOrAfter(time, grid.from + grid.count * grid.step);
  return toGrid(time.subarray(from, to), values.subarray(from, to), grid);
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
