/** How far the clocks of two logs are apart, and how fast they part, from what both have seen. */

import { median, theilSen } from '../quantity/numbers';
import { DAY, HOUR, lengthOf, MINUTE, type Span } from '../quantity/span';
import { correlations, correlationsBetween, partOnGrid, type Point, quickPart } from './agreement';
import { type Series, spanOf } from './channels';
import { medianStep } from './grid';

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

/** A shift counts from so many samples on; where the logs agree better by so much, from fewer. Less may be how a device stamps its means. */
const WORTH = { usual: 1.5, plain: 1 };
/** Less than this is no matter. */
const LEAST = 2 * MINUTE;
const PLAINLY = 0.15;

export const voltsOf = ({ channels }: Series): Float32Array | undefined =>
  channels.battery_voltage ?? channels.source_voltage ?? channels.load_voltage;

export const ampsOf = ({ channels }: Series): Float32Array | undefined =>
  channels.battery_current ?? channels.source_current ?? channels.load_current?.map((one) => -one);

/** Part of its usual voltage under which a bus is dead. */
const DEAD = 0.4;

/**
 * A meter behind what let go shows a dead bus, one before it the battery: what they show then is not the same, and is left out.
 * @returns what was given where the bus is never dead
 */
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
  const [a, b] = [alive(voltsOf(first)), alive(voltsOf(second))];
  const hasDead = a !== voltsOf(first) || b !== voltsOf(second);
  const byVolts = heldTogether(first, a, second, b, 'voltage', overlap, hasDead);
  const row = Math.max(medianStep(first.time), medianStep(second.time));
  const isOpen = byVolts && Math.abs(byVolts.ms) >= Math.max(MINUTE, WORTH.plain * row);
  if (byVolts?.sure || (byVolts && byVolts.shifted > WELL && !isOpen)) return byVolts;
  const byAmps = heldTogether(first, ampsOf(first), second, ampsOf(second), 'current', overlap);
  if (byVolts && isOpen && byAmps && areOne(byVolts, byAmps, row)) return { ...byVolts, sure: true };
  if (byVolts && byVolts.shifted > WELL) return byVolts;
  if (byAmps?.sure && isLoad(second) && !canBe(byAmps, first, second))
    return byVolts ?? { ...byAmps, sure: false };
  return byAmps?.sure ? byAmps : (byVolts ?? byAmps);
}

/**
 * Voltage and current are two witnesses: a shift that both find, each apart from any other and to half a row of the other's, is no chance. It
 * leaves so much less of the voltage open, and the currents agree better by so much.
 */
const WITNESS = { distinct: 0.1, open: 0.7, better: 0.01 };

const areOne = (byVolts: ClockOffset, byAmps: ClockOffset, row: number): boolean =>
  Math.abs(byVolts.ms - byAmps.ms) <= Math.max(MINUTE / 2, row / 2) &&
  byVolts.shifted > WELL &&
  1 - byVolts.shifted <= WITNESS.open * (1 - byVolts.unshifted) &&
  byAmps.shifted - byAmps.unshifted >= WITNESS.better &&
  Math.min(byVolts.distinct, byAmps.distinct) >= WITNESS.distinct;

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
  hasDead = false,
): ClockOffset | null {
  if (!a || !b) return null;
  const window = { from: overlap.from, to: Math.min(overlap.to, overlap.from + LONGEST) };
  const slower = Math.max(medianStep(first.time), medianStep(second.time));
  const two = { timeA: first.time, a, timeB: second.time, b, hasDead };
  const step = Math.max(COARSE, slower);
  const coarse = correlations(two, window, step, lags(-WIDEST, WIDEST, step));
  const rough = nearest(coarse);
  if (!rough) return null;

  const fine = Math.max(MINUTE, slower);
  const near = correlationsBetween(
    two,
    window,
    fine,
    lags(rough.lag - 2 * step, rough.lag + 2 * step, fine / 2),
  );
  const peak = best(near) ?? rough;
  const elsewhere = Math.max(
    0,
    ...coarse
      .filter((point) => Math.abs(point.lag - peak.lag) > HOUR && !apartByDays(point.lag, peak.lag))
      .map((point) => point.r),
  );
  const unshifted = correlationsBetween(two, window, fine, [0])[0]!.r;
  const distinct = Math.max(0, peak.r - elsewhere);
  const middle = vertex(near, peak);
  const isPlain = peak.r - unshifted >= PLAINLY;
  const worth = Math.max(LEAST, (isPlain ? WORTH.plain : WORTH.usual) * slower);
  const drift = driftOf((span) => {
    const points = correlationsBetween(
      two,
      span,
      fine,
      lags(peak.lag - 2 * step, peak.lag + 2 * step, fine / 2),
    );
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

/**
 * A part of the log that a shift is looked for in, ms: long enough to hold charges, short enough to show a clock running away; and how many
 * parts it takes.
 */
const PART = { usual: 3 * DAY, least: 1.9 * DAY, fewest: 4 };

/** How the shift moves over the log: ms a day, in the middle of it, and whether its parts agree on that. */
function driftOf(shiftIn: (span: Span) => number, window: Span) {
  const part = Math.max(PART.least, Math.min(PART.usual, lengthOf(window) / PART.fewest));
  const parts = Math.floor(lengthOf(window) / part);
  const days: number[] = [];
  const shifts: number[] = [];
  for (let i = 0; i < parts; i++) {
    const shift = shiftIn({ from: window.from + i * part, to: window.from + (i + 1) * part });
    if (shift !== shift) continue;
    days.push(((i + 0.5) * part - lengthOf(window) / 2) / DAY);
    shifts.push(shift);
  }
  if (shifts.length < PART.fewest) return { perDay: 0, middle: 0, certain: false };
  const slope = theilSen(days, shifts);
  const intercept = median(shifts.map((shift, i) => shift - slope * days[i]!));
  const range = Math.abs(slope) * (days.at(-1)! - days[0]!);
  const off = shifts.filter((shift, i) => Math.abs(shift - intercept - slope * days[i]!) > range / 4).length;
  return { perDay: slope, middle: intercept, certain: off <= shifts.length / 5 };
}

function lags(from: number, to: number, step: number): number[] {
  const out: number[] = [];
  for (let lag = Math.ceil(from / step) * step; lag <= to; lag += step) out.push(lag);
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
