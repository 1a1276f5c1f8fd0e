/**
 * What the device really counts by: its own percentage against its own current. Where the two tell of another capacity or efficiency
 * than was told, the settings in the device are not those on the sheet.
 */

import { median, quantile } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { gapLimit, medianStep } from '../log/grid';
import { type CounterLog, readingQuantum } from './counterLog';
import { robustLeastSquares, type Solution } from './leastSquares';
import { SYNC_BELOW } from './replay';
import type { CounterSettings } from './settings';

export interface Behaves {
  /** Ah for which its reading falls by 100 %, below its rated current. */
  capacityAh: number;
  capacityError: number;
  /** %; NaN where the log has no charge. */
  efficiencyPercent: number;
  efficiencyError: number;
  /** The exponent by which fast current counts more: as told, unless another fits plainly better. */
  peukert: number;
  /** Share of the reading's moves that the count explains: near 1 for a counter. */
  explained: number;
  /** Stretches that it was found from. */
  stretches: number;
  /** The current moves so much from sample to sample that its integral is a guess. */
  jumpy: boolean;
}

/** A stretch is long enough when so much of the capacity has passed, and so many quanta of the reading. */
const LEAST = { part: 0.02, quanta: 4 };
const LONGEST = 12 * HOUR;
const FEWEST = 12;
const EXPONENTS = [1, 1.05, 1.1, 1.15, 1.2, 1.25, 1.3, 1.35, 1.4, 1.45, 1.5, 1.55, 1.6];
/** Hours of the rated current; beyond it the exponent works. */
const RATED_HOURS = 20;
/** Part of what goes out that must go out fast before an exponent can be told, and by how much another must fit better. */
const FAST = 0.15;
const BETTER = 0.5;
/** What goes one way, as a part of what goes the other, is too little to tell something by. */
const ONE_WAY = 0.1;

type CountedBy = Pick<CounterSettings, 'capacityAh' | 'peukert' | 'peukertBelowRate'>;

interface Stretch {
  moved: number;
  into: number;
  /** Ah out, weighed as it is set, then by each exponent. */
  out: Float64Array;
  fast: number;
}

/**
 * Null without a reading, where it hardly moves, and where it is only charged.
 * @param told what it is set to: fast currents are weighed by its exponent, unless another fits plainly better
 */
export function behavesAs(log: CounterLog, told: CountedBy): Behaves | null {
  if (!log.reading || !log.ampsAreItsOwn) return null;
  // Most batteries are hardly drawn on fast: then no other exponent is tried.
  let stretches = stretchesOf(log, told, []);
  if (stretches.length < FEWEST) return null;
  const whole = (of: (one: Stretch) => number) => stretches.reduce((sum, one) => sum + of(one), 0);
  const fast = whole((one) => one.fast) / whole((one) => one.out[1]!);
  const tellsExponent = fast > FAST && fast < 1 - FAST / 2;
  if (tellsExponent) stretches = stretchesOf(log, told, EXPONENTS);
  const column = (of: (one: Stretch) => number) => Float64Array.from(stretches, of);
  const total = (of: Float64Array) => of.reduce((a, b) => a + b, 0);
  const values = column((one) => one.moved);
  const into = column((one) => one.into);
  const plain = column((one) => one.out[1]!);
  // Where hardly anything goes out, only capacity over efficiency can be told.
  if (total(plain) < ONE_WAY * total(into)) return null;
  const charges = total(into) > ONE_WAY * total(plain);
  const fitWith = (k: number) => {
    const drawn = column((one) => -one.out[k]!);
    return robustLeastSquares({ columns: charges ? [drawn, into] : [drawn], values });
  };
  const leftBy = (fit: Solution, k: number) =>
    column(({ moved, out, into: taken }) =>
      Math.abs(moved + fit.values[0]! * out[k]! - (charges ? fit.values[1]! * taken : 0)),
    );
  let k = 0;
  let fit = fitWith(0);
  // An exponent can be told where much goes out fast, and much slowly.
  if (tellsExponent && fit) {
    const kinds = kindsOf(stretches);
    let least = BETTER * worst(kinds, leftBy(fit, 0));
    for (let other = 1; other <= EXPONENTS.length; other++) {
      const tried = fitWith(other);
      const misses = tried ? worst(kinds, leftBy(tried, other)) : Infinity;
      if (misses < least) [k, fit, least] = [other, tried, misses];
    }
  }
  if (!fit || !(fit.values[0]! > 0)) return null;
  const perAh = fit.values[0]!;
  const left = leftBy(fit, k);
  return {
    capacityAh: 100 / perAh,
    capacityError: (100 / perAh) * (fit.errors[0]! / perAh),
    efficiencyPercent: charges ? (100 * fit.values[1]!) / perAh : NaN,
    efficiencyError: charges ? (100 * fit.errors[1]!) / perAh : NaN,
    peukert: k === 0 ? told.peukert : EXPONENTS[k - 1]!,
    explained: 1 - Math.min(1, quantile(left, 0.5) / Math.max(quantile(values.map(Math.abs), 0.5), 1e-9)),
    stretches: stretches.length,
    jumpy: isJumpy(log),
  };
}

/** Kinds of stretches: it is charged, or nearly all that goes out goes fast, or slowly; so many of a kind tell. */
const KIND = { nearly: 0.8, fewest: 3 };

/** The places of the stretches of each kind. */
function kindsOf(stretches: readonly Stretch[]): number[][] {
  const charged: number[] = [];
  const fast: number[] = [];
  const slow: number[] = [];
  stretches.forEach((one, i) => {
    const out = one.out[1]!;
    if (one.into > out) charged.push(i);
    else if (one.fast > KIND.nearly * out) fast.push(i);
    else if (one.fast < (1 - KIND.nearly) * out) slow.push(i);
  });
  return [charged, fast, slow].filter((one) => one.length >= KIND.fewest);
}

/** What a fit misses of the kind that it misses most of, points: of an exponent the few slow stretches say as much as the many fast. */
const worst = (kinds: readonly number[][], left: Float64Array): number =>
  Math.max(0, ...kinds.map((kind) => median(kind.map((i) => left[i]!))));

/** Moves from sample to sample over the current itself beyond which samples so far apart are no integral. */
const JUMPY = { share: 0.25, step: 20_000 };

export function isJumpy({ time, amps }: Pick<CounterLog, 'time' | 'amps'>): boolean {
  if (medianStep(time) <= JUMPY.step) return false;
  let moves = 0;
  let size = 0;
  for (let i = 1; i < amps.length; i++) {
    const move = Math.abs(amps[i]! - amps[i - 1]!);
    if (move !== move) continue;
    moves += move;
    size += Math.abs(amps[i]!);
  }
  return moves > JUMPY.share * size;
}

/** Whether it is sure enough to go before what was told. */
export const tells = ({ explained, jumpy, capacityAh, capacityError }: Behaves): boolean =>
  explained > 0.9 && !jumpy && capacityError < 0.08 * capacityAh;

/** Where the reading moves freely: neither at its ends nor set to full meanwhile. @param exponents to weigh by beside what is set */
function stretchesOf(
  log: CounterLog,
  { capacityAh, peukert, peukertBelowRate }: CountedBy,
  exponents: readonly number[],
): Stretch[] {
  const { time, amps } = log;
  const reading = log.reading!;
  const quantum = Math.max(readingQuantum(log), 0.05);
  const limit = gapLimit(medianStep(time));
  const rated = capacityAh / RATED_HOURS;
  const found: Stretch[] = [];
  const tried = [1, ...exponents.slice(1)];
  const width = tried.length + 1;
  const weights = weightsOf(peukert, peukertBelowRate, tried);
  let start = -1;
  let current = emptyStretch(width);
  const restart = (at: number) => {
    start = at;
    current = emptyStretch(width);
  };
  for (let i = 0; i < time.length; i++) {
    const now = reading[i]!;
    if (now !== now) continue;
    if (!(now < SYNC_BELOW && now > 1)) {
      restart(-1);
      continue;
    }
    if (start < 0 || time[i]! - time[i - 1]! > limit || amps[i]! !== amps[i]!) {
      restart(i);
      continue;
    }
    const hours = (time[i]! - time[i - 1]!) / HOUR;
    const middle = (amps[i]! + amps[i - 1]!) / 2;
    if (middle > 0) current.into += middle * hours;
    else {
      const ampHours = -middle * hours;
      const faster = -middle / rated;
      if (faster > 1.5) current.fast += ampHours;
      const row = Math.min(TABLE.rates * TABLE.perRate, Math.round(faster * TABLE.perRate)) * width;
      for (let k = 0; k < width; k++) current.out[k]! += ampHours * weights[row + k]!;
    }
    const through = current.into + current.out[1]!;
    const moved = now - reading[start]!;
    const enough = through > LEAST.part * capacityAh && (100 * through) / capacityAh > LEAST.quanta * quantum;
    if (!enough && time[i]! - time[start]! < LONGEST) continue;
    if (enough) found.push({ ...current, moved });
    restart(i);
  }
  return found;
}

/** Multiples of the rated current in steps: no power for every sample. */
const TABLE = { perRate: 50, rates: 60 };

/** For each multiple of the rated current what an Ah counts as: by what is set, then by each exponent. */
function weightsOf(peukert: number, belowRate: boolean, tried: readonly number[]): Float64Array {
  const width = tried.length + 1;
  const weights = new Float64Array((TABLE.rates * TABLE.perRate + 1) * width);
  for (let row = 0; row <= TABLE.rates * TABLE.perRate; row++) {
    const faster = Math.max(row / TABLE.perRate, 0.01);
    weights[row * width] = faster > 1 || belowRate ? faster ** (peukert - 1) : 1;
    tried.forEach((exponent, k) => {
      weights[row * width + k + 1] = faster > 1 ? faster ** (exponent - 1) : 1;
    });
  }
  return weights;
}

const emptyStretch = (width: number): Stretch => ({
  moved: 0,
  into: 0,
  out: new Float64Array(width),
  fast: 0,
});
