/**
 * Guesses at a battery: a good meter on a good battery, a zero that is far off, a capacity that is. Each counts as the anchors make it
 * likely.
 */

import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { measurementsOfSinking } from './measurements';
import { assumedOf, startOf, usualZero } from './motion';
import type { Sinking } from './sinking';
import { type Measurement, type Motion, smooth, type Smoother } from './smoother';
import { withinBounds } from './withinBounds';

/** A value with one standard deviation. */
export interface Valued {
  value: number;
  deviation: number;
}

/** Guesses beside the usual one: a zero error of half a per cent of the capacity, and a capacity that may be anything; parts. */
const FAR = { offset: 0.005, capacity: 0.8 };
/** What a battery may hold, parts of its label; where only more or less would do, something else is wrong. */
const LIKELY = { least: 0.3, most: 1.5 };
/** Where the usual guess has to stretch all else by so many deviations, together, the battery may hold half of its label. */
const STRAINED = 3;
const HALF = 0.5;
/** A capacity far from the label is counted about what it comes to, until that moves by less than this part; so many times at most. */
const ABOUT = { near: 0.1, rounds: 3 };
/**
 * How much rarer such a zero is than the usual, and a battery that may hold anything than a good one, natural logarithms: old batteries
 * are what people ask about. A guess with less than this share is left out.
 */
const RARER = { offset: 4, capacity: 1 };
const HARDLY = 0.02;

interface Tried {
  /** Ah that its motion counts by. */
  c: number;
  motion: Motion;
  seen: Measurement[];
  start: Parameters<typeof smooth>[2];
  smoothed: Smoother;
}

export interface Guess extends Tried {
  /** Probability of this guess among all. */
  share: number;
}

export interface Guesses {
  /** The likeliest first. */
  believed: Guess[];
  /** By how much a zero error, and another capacity, beyond what is usual make the anchors likelier; natural logarithms. */
  favours: { offset: number; capacity: number };
}

export interface GuessInput {
  bank: KnownBank;
  motionAt: (c: number) => Motion;
  measurements: readonly Measurement[];
  sinking: Sinking | null;
  /** The most that the meter's zero may be off by, A; null where nothing shows it. */
  mostZeroA: number | null;
}

export function guessesOf({ bank, motionAt, measurements, sinking, mostZeroA }: GuessInput): Guesses {
  const { capacityAh: label } = bank;
  const atLabel = motionAt(label);
  const zero = usualZero(bank) / label;
  const tryWith = (capacity: number, offset: number, c = label): Tried => {
    const motion = c === label ? atLabel : motionAt(c);
    const start = startOf(bank, c, { capacity, offset });
    const seen = [...measurementsOfSinking(sinking, c), ...measurements];
    return { c, motion, seen, start, smoothed: smooth(motion, seen, start) };
  };
  const usual = tryWith(assumedOf(bank).capacity, zero);
  const offset = tryWith(
    assumedOf(bank).capacity,
    Math.max(zero, Math.min(FAR.offset, (mostZeroA ?? Infinity) / 2 / label)),
  );
  const over = (one: Tried) => one.smoothed.evidence - usual.smoothed.evidence;
  // Only where it explains the anchors better than the label does, and may be true: each round costs a run of the smoother.
  const farFrom = (part: number): Tried => {
    let tried = tryWith(FAR.capacity, zero, part * label);
    for (let round = 0; round < ABOUT.rounds; round++) {
      const holds = heldBy(tried);
      const isThere = Math.abs(holds / tried.c - 1) < ABOUT.near;
      if (isThere || over(tried) <= 0 || !isLikely(holds / label)) break;
      tried = tryWith(FAR.capacity, zero, holds);
    }
    return tried;
  };
  let capacity = farFrom(1);
  // From the label the way to a battery that has lost half of it is far: what a high rate costs is another there.
  if (isLead(bank.chemistry) && strainOf(usual) > STRAINED) {
    const half = farFrom(HALF);
    if (over(half) > over(capacity)) capacity = half;
  }
  const mayHold = isLikely(heldBy(capacity) / label);
  const odds: [Tried, number][] = [
    [usual, 0],
    [offset, over(offset) - RARER.offset],
    [capacity, mayHold ? over(capacity) - RARER.capacity : -Infinity],
  ];
  const most = Math.max(...odds.map(([, logOdds]) => logOdds));
  const whole = odds.reduce((sum, [, logOdds]) => sum + Math.exp(logOdds - most), 0);
  return {
    believed: odds
      .map(([tried, logOdds]) => ({ ...tried, share: Math.exp(logOdds - most) / whole }))
      .filter(({ share }) => share > HARDLY)
      .map((one) => ({ ...one, smoothed: withinBounds(one, one.seen) }))
      .sort((one, other) => other.share - one.share),
    favours: { offset: over(offset), capacity: mayHold ? over(capacity) : 0 },
  };
}

/** Ah that the battery holds by a guess. */
export const heldBy = ({ c, smoothed }: Pick<Guess, 'c' | 'smoothed'>): number =>
  c / (1 + smoothed.state[1]!);

/** Standard deviation of an unknown by a guess, in the motion's order and units. */
export const deviationOf = ({ smoothed }: Pick<Guess, 'smoothed'>, i: number): number =>
  Math.sqrt(Math.max(0, smoothed.covariance[i]![i]!));

const isLikely = (part: number): boolean => part > LIKELY.least && part < LIKELY.most;

/** By how many deviations its unknowns lie off what was assumed of them, together. */
const strainOf = ({ smoothed, start }: Tried): number =>
  Math.hypot(
    ...start.state.slice(1).map((one, i) => (smoothed.state[i + 1]! - one) / start.deviations[i + 1]!),
  );

/** Mean of what guesses say by their shares; as open as each of them is, and as they lie apart. */
export function meanOfGuesses(guesses: readonly Guess[], of: (one: Guess) => Valued): Valued {
  const said = guesses.map((one) => ({ ...of(one), share: one.share }));
  const value = said.reduce((sum, one) => sum + one.share * one.value, 0);
  const variance = said.reduce(
    (sum, one) => sum + one.share * (one.deviation ** 2 + (one.value - value) ** 2),
    0,
  );
  return { value, deviation: Math.sqrt(variance) };
}

/** The same of the level, step by step. */
export function meanCourse(guesses: readonly Guess[]): Pick<Smoother, 'level' | 'deviation'> {
  const { level, deviation } = guesses[0]!.smoothed;
  if (guesses.length === 1) return { level, deviation };
  const means = Array.from(level, (_, k) =>
    meanOfGuesses(guesses, ({ smoothed }) => ({
      value: smoothed.level[k]!,
      deviation: smoothed.deviation[k]!,
    })),
  );
  return {
    level: Float64Array.from(means, (one) => one.value),
    deviation: Float64Array.from(means, (one) => one.deviation),
  };
}
