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
import { gassedCells, GASSING, keptCells, nearTop, whileKept } from './kept';
import { type Measurement, type Motion, smooth, type Smoother } from './smoother';
import type { Sinking } from './sinking';
import type { Through } from './through';
import { tailDoubt } from './tailDoubt';
import { unevenly } from './uneven';
import { withinBounds } from './withinBounds';

/** A value with one standard deviation. */
interface Valued {
  value: number;
  deviation: number;
}

/** The same, and what was assumed before the log was read. */
export interface Estimate extends Valued {
  before: Valued;
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
  sinking: Sinking | null;
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
/** The same under the knee of lithium. */
const KNEE = 0.04;
/** What the current at the end of a charge says that it lacks may be more or less by, on one battery: parts of it. */
const LACKS = 0.5;
/** What counting itself is off by: for a battery that was drawn and filled once, and for a day; parts of the capacity. */
const COUNTING = { cycle: 0.03, day: 0.015 };
/** By how much more where the log was written too seldom. */
const COARSE = 3;
/** Near the top part of what goes in is lost to gas, and it varies: variance for each part of the capacity that goes in there. */
const TOP_VARIANCE = 0.004;
/** The same of what goes in above its range since absorption began: some of it, or hardly any, is kept. */
const GASSED_VARIANCE = 0.03;
/** By how much a lead battery that is kept at its tail still rises, parts of the capacity, and how soon (common practice, no source). */
const KEPT = { rises: 0.035, within: 3 * HOUR };
/**
 * Ah beyond what was drawn that Peukert's law takes off at a rate above that of twenty hours (W. Peukert, Elektrotechnische Zeitschrift
 * 20, 1897); how much of it a battery truly loses is open, and the log may tell: most of it comes back with time.
 */
const RATE = { exponent: 1.2, hours: 20, share: 0.35 };
const rateLoss = (out: number, hours: number, capacityAh: number): number =>
  out * (Math.max(1, (out / hours / capacityAh) * RATE.hours) ** (RATE.exponent - 1) - 1);
/** Where nothing is known a battery may be anywhere, parts of the capacity. */
const START = { lead: 0.7, lithium: 0.6, deviation: 0.35 };

/** Guesses beside the usual one: a zero error of half a per cent of the capacity, and a capacity that may be anything; parts. */
const FAR = { offset: 0.005, capacity: 0.8 };
/** What a battery may hold, parts of its label; where only more or less would do, something else is wrong. */
const LIKELY = { least: 0.3, most: 1.5 };
/** Where the usual guess has to stretch all else by so many deviations, together, the battery may hold half of its label. */
const STRAINED = 3;
const HALF = 0.5;
/** A capacity far from the label is counted about what it comes to, until that moves by less than this part; so many times at most. */
const ABOUT = { near: 0.1, rounds: 3 };
interface Tried {
  /** Ah that its motion counts by. */
  c: number;
  motion: Motion;
  seen: Measurement[];
  start: { state: number[]; deviations: number[] };
  smoothed: Smoother;
}
/**
 * How much rarer such a zero is than the usual, and a battery that may hold anything than a good one, natural logarithms: old batteries
 * are what people ask about. A guess with less than this share is left out.
 */
const RARER = { offset: 4, capacity: 1 };
const HARDLY = 0.02;

export interface ReferenceInput {
  bank: KnownBank;
  through: Through;
  anchors: readonly Anchor[];
  /** Parts of the capacity that a charger which nobody sees may give in an hour, one standard deviation, a value a cell. */
  blind?: Float64Array;
  /** Cells in which lead is held far above its range. */
  overcharged?: Uint8Array;
  /** Cells in which it is past empty. */
  spent?: Uint8Array;
  /** The most that the meter's zero may be off by, A; null where nothing shows it. */
  mostZeroA?: number | null;
  /** The current moved more between samples than its mean tells. */
  coarse?: boolean;
  /** Its temperature as a rule, °C; NaN where nobody logged it. */
  celsius?: number;
  /** What its voltage says of its capacity as it sinks; null where it does not show. */
  sinking?: Sinking | null;
}

export function referenceOf({
  bank,
  through,
  anchors: claimed,
  blind,
  overcharged,
  spent,
  mostZeroA,
  coarse,
  celsius = NaN,
  sinking = null,
}: ReferenceInput): Reference {
  const anchors = claimed.flatMap((one) => whileKept(one, through, bank.capacityAh));
  const cycle = coarse ? COARSE * COUNTING.cycle : COUNTING.cycle;
  const { grid } = through;
  const lead = isLead(bank.chemistry);
  const shared = tailDoubt(bank.chemistry, celsius);
  const before = lead ? BEFORE.lead : BEFORE.lithium;
  const label = bank.capacityAh;
  const zero = ZERO.amps + ZERO.part * label;
  // Level; capacity (parts, as its inverse), loss of what goes in (parts), zero error (parts of the capacity an hour), what a high rate
  // costs lead (parts of what Peukert's law says) or what lithium's table is off by under its knee; rest table: level and slope; what charges lack (parts of what their current says).
  const size = 8;
  const { count } = grid;
  // What flows into a full lead battery is lost; lithium takes nothing, and gives to the loads what float does not.
  const kept = lead ? keptCells(anchors, grid) : new Uint8Array(count);
  const gassed = overcharged?.includes(1) ? gassedCells(anchors, through, label, overcharged) : null;
  gassed?.forEach((is, k) => is === GASSING.all && (kept[k] = 1));
  const near = nearTop(anchors, through, label);
  // What is lost goes by what the battery holds: a battery far from its label is counted about what it may hold.
  const motionAt = (c: number): Motion => {
    const drive = new Float64Array(count);
    const rows = new Float64Array(count * (size - 1));
    const noise = new Float64Array(count);
    for (let k = 0; k < count; k++) {
      const into = kept[k] ? 0 : through.in[k]!;
      const out = kept[k] || spent?.[k] ? 0 : through.out[k]!;
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
        (lead && near[k] ? (TOP_VARIANCE * into) / c : 0) +
        (gassed?.[k] === GASSING.some ? (GASSED_VARIANCE * into) / c : 0) +
        (through.hiddenError[k]! / c) ** 2 +
        (blind ? (blind[k]! ** 2 * grid.step) / HOUR : 0);
    }
    return { steps: count, size, drive, rows, noise };
  };
  const measurements = anchors
    .flatMap((anchor): Measurement[] => {
      const step = cellOfAnchor(grid, anchor);
      const h = anchor.byTable
        ? [1, 0, 0, 0, 0, anchor.byTable, anchor.byTable * (anchor.charge - TABLE.middle)]
        : anchor.lacks || anchor.zeroHours
          ? [1, 0, 0, anchor.zeroHours ?? 0, 0, 0, 0, anchor.lacks ?? 0]
          : anchor.atKnee
            ? [1, 0, 0, 0, 1]
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
      state: [lead ? START.lead : START.lithium, c / label - 1, 0, 0, 0, 0, 0, 0],
      deviations: [
        START.deviation,
        (capacity * c) / label,
        before.efficiencyDeviation,
        (offset * label) / c,
        lead ? RATE.share : KNEE,
        lead ? TABLE.level.lead : TABLE.level.lithium,
        TABLE.slope,
        LACKS,
      ],
    };
    const seen = [...ofSinking(sinking, c), ...measurements];
    return { c, motion, seen, start, smoothed: smooth(motion, seen, start) };
  };
  // A good meter on a good battery, a zero that is far off, a capacity that is: each counts as the anchors make it likely.
  const usual = tryWith(before.capacity, zero / label);
  const farZero = Math.max(zero / label, Math.min(FAR.offset, (mostZeroA ?? Infinity) / 2 / label));
  const offset = tryWith(before.capacity, farZero);
  const over = (one: Tried) => one.smoothed.evidence - usual.smoothed.evidence;
  // Only where it explains the anchors better than the label does, and may be true: each round costs a run of the smoother.
  const farFrom = (part: number): Tried => {
    let tried = tryWith(
      FAR.capacity,
      zero / label,
      part * label,
      part === 1 ? atLabel : motionAt(part * label),
    );
    for (let round = 0; round < ABOUT.rounds; round++) {
      const holds = heldBy(tried);
      const isThere = Math.abs(holds / tried.c - 1) < ABOUT.near;
      if (isThere || over(tried) <= 0 || !isLikely(holds / label)) break;
      tried = tryWith(FAR.capacity, zero / label, holds, motionAt(holds));
    }
    return tried;
  };
  let capacity = farFrom(1);
  // From the label the way to a battery that has lost half of it is far: what a high rate costs is another there.
  if (lead && strainOf(usual) > STRAINED) {
    const half = farFrom(HALF);
    if (over(half) > over(capacity)) capacity = half;
  }
  const mayHold = isLikely(heldBy(capacity) / label);
  const guesses: [Tried, number][] = [
    [usual, 0],
    [offset, over(offset) - RARER.offset],
    [capacity, mayHold ? over(capacity) - RARER.capacity : -Infinity],
  ];
  const most = Math.max(...guesses.map(([, logOdds]) => logOdds));
  const whole = guesses.reduce((sum, [, logOdds]) => sum + Math.exp(logOdds - most), 0);
  const believed = guesses
    .map(([tried, logOdds]) => ({ ...tried, share: Math.exp(logOdds - most) / whole }))
    .filter(({ share }) => share > HARDLY)
    .map((one) => ({ ...one, smoothed: withinBounds(one, one.seen) }))
    .sort((one, other) => other.share - one.share);
  const meanOf = (of: (one: Tried) => Valued): Valued =>
    meanOfGuesses(believed.map((one) => ({ ...of(one), share: one.share })));
  // The label over the capacity is what the model has as an unknown.
  const inverse = meanOf((one) => ({
    value: label / heldBy(one),
    deviation: (deviationOf(one, 1) * label) / one.c,
  }));
  const course = meanCourse(believed);
  const offsetA = meanOf((one) => ({
    value: -one.smoothed.state[3]! * one.c,
    deviation: deviationOf(one, 3) * one.c,
  }));
  const uneven = unevenly(offsetA.value, zero, anchors, grid);
  return {
    grid,
    percent: course.level.map((one) => 100 * clamp(one, 0, 1)),
    deviation: course.deviation.map((one, k) => 100 * Math.hypot(one, shared, (uneven?.[k] ?? 0) / label)),
    capacityAh: {
      value: label / inverse.value,
      deviation: (label / inverse.value) * (inverse.deviation / inverse.value),
      before: { value: label, deviation: before.capacity * label },
    },
    efficiencyPercent: {
      ...meanOf((one) => ({
        value: 100 * (before.efficiency - one.smoothed.state[2]! / (1 + one.smoothed.state[1]!)),
        deviation: 100 * deviationOf(one, 2),
      })),
      before: { value: 100 * before.efficiency, deviation: 100 * before.efficiencyDeviation },
    },
    // What the meter shows too much, A: taken off its current. What all anchors share is gained or lost once a day.
    offsetA: {
      value: offsetA.value,
      deviation: Math.hypot(offsetA.deviation, (shared * label) / 24),
      before: { value: 0, deviation: zero },
    },
    anchors: [...anchors],
    sinking,
    favours: { offset: over(offset), capacity: mayHold ? over(capacity) : 0 },
    entangled: entangledIn(believed[0]!),
  };
}

/** The capacity by the voltage that sinks, as its inverse is counted. @param c Ah that the motion counts by */
const ofSinking = (sinking: Sinking | null, c: number): Measurement[] =>
  sinking
    ? [
        {
          step: 0,
          value: c / sinking.capacityAh - 1,
          deviation: (c * sinking.deviation) / sinking.capacityAh ** 2,
          h: [0, 1],
        },
      ]
    : [];

const heldBy = ({ c, smoothed }: Tried): number => c / (1 + smoothed.state[1]!);
/** By how many deviations its unknowns lie off what was assumed of them, together. */
const strainOf = ({ smoothed, start }: Tried): number =>
  Math.hypot(
    ...start.state.slice(1).map((one, i) => (smoothed.state[i + 1]! - one) / start.deviations[i + 1]!),
  );
const isLikely = (part: number): boolean => part > LIKELY.least && part < LIKELY.most;
const deviationOf = ({ smoothed }: Tried, i: number): number =>
  Math.sqrt(Math.max(0, smoothed.covariance[i]![i]!));

function entangledIn(one: Tried): Reference['entangled'] {
  const pairs = [
    [1, 2],
    [1, 3],
    [2, 3],
  ] as const;
  return pairs.flatMap(([i, j]): Reference['entangled'] => {
    const r = one.smoothed.covariance[i]![j]! / (deviationOf(one, i) * deviationOf(one, j));
    return Math.abs(r) > 0.8 ? [[ESTIMATES[i - 1]!, ESTIMATES[j - 1]!, r]] : [];
  });
}

/** Mean of guesses by their shares; as open as each of them is, and as they lie apart. */
function meanOfGuesses(guesses: readonly (Valued & { share: number })[]): Valued {
  const value = guesses.reduce((sum, one) => sum + one.share * one.value, 0);
  const variance = guesses.reduce(
    (sum, one) => sum + one.share * (one.deviation ** 2 + (one.value - value) ** 2),
    0,
  );
  return { value, deviation: Math.sqrt(variance) };
}

/** The same of the level, step by step. */
function meanCourse(guesses: readonly (Tried & { share: number })[]): Pick<Smoother, 'level' | 'deviation'> {
  const { level, deviation } = guesses[0]!.smoothed;
  if (guesses.length === 1) return { level, deviation };
  const means = Array.from(level, (_, k) =>
    meanOfGuesses(
      guesses.map(({ share, smoothed }) => ({
        share,
        value: smoothed.level[k]!,
        deviation: smoothed.deviation[k]!,
      })),
    ),
  );
  return {
    level: Float64Array.from(means, (one) => one.value),
    deviation: Float64Array.from(means, (one) => one.deviation),
  };
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
