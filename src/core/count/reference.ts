/**
 * The true state of charge with its band: what went in and out between the moments at which it is known, forward and backward, with the
 * battery's capacity, efficiency and the meter's zero error as unknowns that the same anchors settle.
 */

import { clamp } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { cellOf, cellStart, type Grid } from '../log/grid';
import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { type Anchor, cellOfAnchor } from './anchors';
import { type Measurement, type Motion, smooth, type Smoother } from './smoother';
import type { Through } from './through';

/** A value with one standard deviation, and what was assumed before the log was read. */
export interface Estimate {
  value: number;
  deviation: number;
  before: { value: number; deviation: number };
}

export interface Reference {
  grid: Grid;
  /** %, at the end of each cell, and one standard deviation. */
  percent: Float64Array;
  deviation: Float64Array;
  capacityAh: Estimate;
  efficiencyPercent: Estimate;
  offsetA: Estimate;
  anchors: Anchor[];
  /** Pairs of these that the log moves together: more of one is as good as more of the other. */
  entangled: [EstimateName, EstimateName, number][];
  /** By how much a zero error, and another capacity, beyond what is usual make the anchors likelier; natural logarithms. */
  favours: { offset: number; capacity: number };
}

export const ESTIMATES = ['capacity', 'efficiency', 'offset'] as const;
export type EstimateName = (typeof ESTIMATES)[number];

/** What is known beforehand, by common practice: label against truth, efficiency below the gassing voltage, zero of a meter. */
const BEFORE = {
  lead: { capacity: 0.1, efficiency: 0.94, efficiencyDeviation: 0.07 },
  lithium: { capacity: 0.05, efficiency: 0.995, efficiencyDeviation: 0.01 },
};
/** Zero error, A: of any meter, and a part of the capacity. */
const ZERO = { amps: 0.03, part: 0.0006 };
/**
 * A table of rest voltages that does not know this battery: what all rests of a log are off by, parts of the capacity, and how much
 * steeper or flatter its curve may be about the middle.
 */
const TABLE = { level: { lead: 0.08, lithium: 0.2 }, slope: 0.12, middle: 0.7 };
/** What counting itself is off by: for a battery that was drawn and filled once, and for a day; parts of the capacity. */
const COUNTING = { cycle: 0.03, day: 0.015 };
/** By how much more where the log was written too seldom. */
const COARSE = 3;
/** Near the top part of what goes in is lost to gas, and it varies: variance for each part of the capacity that goes in there. */
const TOP = { from: 0.9, variance: 0.004 };
/**
 * Ah beyond what was drawn that Peukert's law takes off at a rate above that of twenty hours (W. Peukert, Elektrotechnische Zeitschrift
 * 20, 1897); how much of it a battery truly loses is open, and the log may tell: most of it comes back with time.
 */
const RATE = { exponent: 1.2, hours: 20, share: 0.3 };
const rateLoss = (out: number, hours: number, capacityAh: number): number =>
  out * (Math.max(1, (out / hours / capacityAh) * RATE.hours) ** (RATE.exponent - 1) - 1);
/** Where nothing is known a battery may be anywhere, parts of the capacity. */
const START = { lead: 0.7, lithium: 0.6, deviation: 0.35 };

/** What all anchors of a log share and no number of them takes away: at its tail one battery is fuller than another. Parts of the capacity. */
const SHARED = { lead: 0.015, lithium: 0.01 };

/** Guesses beside the usual one: a zero error of half a per cent of the capacity, and a capacity that may be anything; parts. */
const FAR = { offset: 0.005, capacity: 0.5 };
/** What a battery may hold, parts of its label; where only more or less would do, something else is wrong. */
const LIKELY = { least: 0.3, most: 1.5 };
/** A capacity far from the label is counted about what it comes to, until that moves by less than this part; so many times at most. */
const ABOUT = { near: 0.1, rounds: 3 };
interface Tried {
  /** Ah that its motion counts by. */
  c: number;
  motion: Motion;
  start: { state: number[]; deviations: number[] };
  smoothed: Smoother;
}
/** Another guess must be so much likelier than the usual one. */
const PLAINLY = 4;

export interface ReferenceInput {
  bank: KnownBank;
  through: Through;
  anchors: readonly Anchor[];
  /** Cells in which the battery's current is not what was counted: a charger that nobody sees holds the voltage. */
  blind?: Uint8Array;
  /** The current moved more between samples than its mean tells. */
  coarse?: boolean;
}

export function referenceOf({ bank, through, anchors: claimed, blind, coarse }: ReferenceInput): Reference {
  const anchors = claimed.flatMap((one) => whileKept(one, through, bank.capacityAh));
  const cycle = coarse ? COARSE * COUNTING.cycle : COUNTING.cycle;
  const { grid } = through;
  const lead = isLead(bank.chemistry);
  const shared = lead ? SHARED.lead : SHARED.lithium;
  const before = lead ? BEFORE.lead : BEFORE.lithium;
  const label = bank.capacityAh;
  const zero = ZERO.amps + ZERO.part * label;
  // Level; capacity (parts, as its inverse), loss of what goes in (parts), zero error (parts of the capacity an hour), what a high rate
  // costs (parts of what Peukert's law says); rest table: level and slope.
  const size = 7;
  const { count } = grid;
  // What flows into a full lead battery is lost; lithium takes nothing, and gives to the loads what float does not.
  const kept = lead ? keptCells(anchors, grid) : new Uint8Array(count);
  const near = nearTop(anchors, through, label);
  // What is lost goes by what the battery holds: a battery far from its label is counted about what it may hold.
  const motionAt = (c: number): Motion => {
    const drive = new Float64Array(count);
    const rows = new Float64Array(count * (size - 1));
    const noise = new Float64Array(count);
    for (let k = 0; k < count; k++) {
      const into = kept[k] ? 0 : through.in[k]!;
      const out = kept[k] ? 0 : through.out[k]!;
      const hidden = through.hidden[k]!;
      const net = (into - out + hidden) / c;
      const hours = kept[k] ? 0 : through.hours[k]!;
      drive[k] = net - ((1 - before.efficiency) * into) / c;
      rows[k * (size - 1)] = net;
      rows[k * (size - 1) + 1] = -into / c;
      rows[k * (size - 1) + 2] = hours;
      rows[k * (size - 1) + 3] = lead && hours > 0 ? -rateLoss(out, hours, c) / c : 0;
      noise[k] =
        cycle ** 2 * ((into + out) / (2 * c)) +
        (COUNTING.day ** 2 * (grid.step / HOUR)) / 24 +
        (lead && near[k] ? (TOP.variance * into) / c : 0) +
        (hidden / c) ** 2 +
        (blind?.[k] ? (0.05 * Math.sqrt(grid.step / HOUR)) ** 2 : 0);
    }
    return { steps: count, size, drive, rows, noise };
  };
  const measurements = anchors
    .flatMap((anchor): Measurement[] => {
      const step = cellOfAnchor(grid, anchor);
      const h =
        (anchor.kind === 'rest' && lead) || anchor.kind === 'flat'
          ? [1, 0, 0, 0, 0, 1, anchor.charge - TABLE.middle]
          : [1];
      const seen: Measurement = { step, value: anchor.charge, deviation: anchor.deviation, h };
      if (anchor.kind !== 'full' || !lead) return [seen];
      const end = clamp(cellOf(grid, anchor.until), step, count - 1);
      const value = anchor.charge + KEPT.rises * (1 - Math.exp((anchor.at - anchor.until) / KEPT.within));
      return end > step ? [seen, { ...seen, value, step: end }] : [seen];
    })
    .sort((a, b) => a.step - b.step);
  const atLabel = motionAt(label);
  // @param c capacity that the motion counts by
  const tryWith = (capacity: number, offset: number, c = label, motion = atLabel): Tried => {
    const start = {
      state: [lead ? START.lead : START.lithium, c / label - 1, 0, 0, 0, 0, 0],
      deviations: [
        START.deviation,
        (capacity * c) / label,
        before.efficiencyDeviation,
        (offset * label) / c,
        RATE.share,
        lead ? TABLE.level.lead : TABLE.level.lithium,
        TABLE.slope,
      ],
    };
    return { c, motion, start, smoothed: smooth(motion, measurements, start) };
  };
  // A good meter on a good battery; else a zero that is far off, or a capacity that is: whichever makes the anchors likeliest.
  const usual = tryWith(before.capacity, zero / label);
  const offset = tryWith(before.capacity, FAR.offset);
  let capacity = tryWith(FAR.capacity, zero / label);
  const over = (one: Tried) => one.smoothed.evidence - usual.smoothed.evidence;
  const heldBy = ({ c, smoothed }: Tried) => c / (1 + smoothed.state[1]!);
  const isLikely = (part: number) => part > LIKELY.least && part < LIKELY.most;
  // Only where it explains the anchors better than the label does, and may be true: each round costs a run of the smoother.
  for (let round = 0; round < ABOUT.rounds; round++) {
    const holds = heldBy(capacity);
    const isThere = Math.abs(holds / capacity.c - 1) < ABOUT.near;
    if (isThere || over(capacity) <= 0 || !isLikely(holds / label)) break;
    capacity = tryWith(FAR.capacity, zero / label, holds, motionAt(holds));
  }
  const odd = heldBy(capacity) / label;
  const best =
    over(offset) > PLAINLY && over(capacity) < over(offset) + PLAINLY
      ? offset
      : over(capacity) > PLAINLY && isLikely(odd)
        ? capacity
        : usual;
  const { start, c } = best;
  let { smoothed } = best;
  // A battery holds no more than all and no less than nothing: where the count says otherwise, that says something too.
  const bounds: Measurement[] = [];
  for (let round = 0; round < BOUND_ROUNDS; round++) {
    const beyond = furthestBeyond(smoothed);
    if (!beyond) break;
    bounds.push(beyond);
    smoothed = smooth(
      best.motion,
      [...measurements, ...bounds].sort((a, b) => a.step - b.step),
      start,
    );
  }
  const { level, deviation, state, covariance } = smoothed;
  const sd = (i: number) => Math.sqrt(Math.max(0, covariance[i]![i]!));
  const capacityAh = c / (1 + state[1]!);
  const entangled = (
    [
      [1, 2],
      [1, 3],
      [2, 3],
    ] as const
  ).flatMap(([i, j]): Reference['entangled'] => {
    const r = covariance[i]![j]! / (sd(i) * sd(j));
    return Math.abs(r) > 0.8 ? [[ESTIMATES[i - 1]!, ESTIMATES[j - 1]!, r]] : [];
  });
  // Where a zero that is far off is nearly as likely, its size is as open as the choice.
  const share = 1 / (1 + Math.exp(PLAINLY - over(offset)));
  const far = {
    value: -offset.smoothed.state[3]! * label,
    deviation: Math.sqrt(offset.smoothed.covariance[3]![3]!) * label,
  };
  // What all anchors share is gained or lost once a day.
  const withShared = (one: Pick<Estimate, 'value' | 'deviation'>) => ({
    ...one,
    deviation: Math.hypot(one.deviation, (shared * label) / 24),
  });
  const mixed = mix({ value: -state[3]! * c, deviation: sd(3) * c }, far, share);
  return {
    grid,
    percent: level.map((one) => 100 * clamp(one, 0, 1)),
    deviation: deviation.map((one) => 100 * Math.hypot(one, shared)),
    capacityAh: {
      value: capacityAh,
      deviation: (sd(1) * capacityAh) / (1 + state[1]!),
      before: { value: label, deviation: before.capacity * label },
    },
    efficiencyPercent: {
      value: 100 * (before.efficiency - state[2]! / (1 + state[1]!)),
      deviation: 100 * sd(2),
      before: { value: 100 * before.efficiency, deviation: 100 * before.efficiencyDeviation },
    },
    // What the meter shows too much, A: taken off its current.
    offsetA: {
      ...withShared(best === usual ? mixed : { value: -state[3]! * c, deviation: sd(3) * c }),
      before: { value: 0, deviation: zero },
    },
    anchors: [...anchors],
    favours: { offset: over(offset), capacity: isLikely(odd) ? over(capacity) : 0 },
    entangled,
  };
}

/** Two estimates as one, the second with a share of the belief. */
function mix(
  one: Pick<Estimate, 'value' | 'deviation'>,
  other: Pick<Estimate, 'value' | 'deviation'>,
  share: number,
): Pick<Estimate, 'value' | 'deviation'> {
  const value = (1 - share) * one.value + share * other.value;
  const variance = (of: typeof one) => of.deviation ** 2 + (of.value - value) ** 2;
  return { value, deviation: Math.sqrt((1 - share) * variance(one) + share * variance(other)) };
}

/** Cells in which the last tenth goes in, before an anchor near the top. */
function nearTop(anchors: readonly Anchor[], { grid, in: into }: Through, capacityAh: number): Uint8Array {
  const near = new Uint8Array(grid.count);
  for (const anchor of anchors) {
    if (anchor.kind !== 'full' && anchor.kind !== 'absorption') continue;
    let ampHours = 0;
    for (let k = cellOfAnchor(grid, anchor); k >= 0 && ampHours < (1 - TOP.from) * capacityAh; k--) {
      if (into[k] === 0 && ampHours > 0) break;
      ampHours += into[k]!;
      near[k] = 1;
    }
  }
  return near;
}

/** A battery that gives this part of its capacity, and does not get it back, is not kept full, whatever its charger says. */
const DRAWN = 0.02;

/** An anchor of a full battery for as long as the battery stays so; none where it was drawn upon just before. */
function whileKept(anchor: Anchor, { grid, in: into, out }: Through, capacityAh: number): Anchor[] {
  if (anchor.kind !== 'full') return [anchor];
  const first = cellOfAnchor(grid, anchor);
  const last = Math.min(grid.count - 1, cellOf(grid, anchor.until));
  let drawn = 0;
  for (let k = Math.max(0, cellOf(grid, anchor.at - HOUR)); k <= last; k++) {
    drawn = Math.max(0, drawn + out[k]! - into[k]!);
    if (drawn <= DRAWN * capacityAh) continue;
    return k <= first ? [] : [{ ...anchor, until: Math.max(anchor.at, cellStart(grid, k - 1)) }];
  }
  return [anchor];
}

/** Cells in which a charger only keeps a full battery full. */
function keptCells(anchors: readonly Anchor[], grid: Grid): Uint8Array {
  const kept = new Uint8Array(grid.count);
  for (const anchor of anchors) {
    if (anchor.kind !== 'full' || anchor.until <= anchor.at) continue;
    const last = Math.min(grid.count - 1, cellOf(grid, anchor.until));
    for (let k = Math.max(0, cellOf(grid, anchor.at) + 1); k <= last; k++) kept[k] = 1;
  }
  return kept;
}

/** By how much a lead battery that is kept at its tail still rises, parts of the capacity, and how soon (common practice, no source). */
const KEPT = { rises: 0.035, within: 3 * HOUR };

/** Each costs a run of the smoother; a log that is beyond all of them is told by its band. */
const BOUND_ROUNDS = 4;
/** Beyond by less is within the doubt of counting. */
const BEYOND = 0.02;

/**
 * The step at which the level is furthest beyond full or empty, as the measurement that cuts the forbidden part off its distribution:
 * mean and variance of a truncated normal. Null where it stays within.
 */
function furthestBeyond({ level, deviation }: Smoother): Measurement | null {
  let step = -1;
  let most = BEYOND;
  for (let k = 0; k < level.length; k++) {
    const by = Math.max(level[k]! - 1, -level[k]!);
    if (by > most) {
      most = by;
      step = k;
    }
  }
  if (step < 0) return null;
  const above = level[step]! > 0.5;
  const mean = above ? level[step]! - 1 : -level[step]!;
  const sd = Math.max(deviation[step]!, 0.01);
  // Of a normal about `mean`, what lies under nothing.
  const edge = -mean / sd;
  const ratio = density(edge) / Math.max(below(edge), 1e-12);
  const variance = Math.max(sd * sd * (1 - edge * ratio - ratio * ratio), 1e-6);
  const cut = mean - sd * ratio;
  const noise = 1 / Math.max(1 / variance - 1 / (sd * sd), 1e-6);
  const value = mean + ((cut - mean) * (sd * sd + noise)) / (sd * sd);
  return { step, value: above ? 1 + value : -value, deviation: Math.max(0.02, Math.sqrt(noise)), h: [1] };
}

const density = (x: number): number => Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI);

/** Share of a normal distribution below x (Abramowitz and Stegun, Handbook of Mathematical Functions, 26.2.17, within 7.5e-8). */
function below(x: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(x));
  const poly =
    t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  const upper = density(x) * poly;
  return x >= 0 ? 1 - upper : upper;
}

/** State of charge and its standard deviation at a moment, %; NaN before and after the log. */
export function referenceAt(
  { grid, percent, deviation }: Pick<Reference, 'grid' | 'percent' | 'deviation'>,
  ms: number,
): { percent: number; deviation: number } {
  const cell = cellOf(grid, ms);
  if (cell < 0 || cell >= grid.count) return { percent: NaN, deviation: NaN };
  const before = Math.max(0, cell - 1);
  const share = clamp((ms - cellStart(grid, cell)) / grid.step, 0, 1);
  const mix = (of: Float64Array) => of[before]! + (of[cell]! - of[before]!) * share;
  return { percent: mix(percent), deviation: mix(deviation) };
}
