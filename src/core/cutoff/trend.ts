/** How a resistance moves over a log: means of even stretches, and a line through them. */

import { fitLine } from '../quantity/numbers';
import { DAY } from '../quantity/span';

/** One measure of it. */
export interface Measure {
  at: number;
  ohms: number;
  /** What it counts for: the A of its step. */
  weight: number;
}

export interface ResistanceTrend {
  /** Middles of the stretches, epoch ms, and Ω in each. */
  points: { at: number; ohms: number }[];
  /** Ω in 30 days, and one standard deviation. */
  aMonth: number;
  error: number;
}

/** So many stretches of a day or more, so many measures in each, and so long a log; less is no trend. */
const STRETCHES = { most: 12, fewest: 5, days: 9, measures: 3 };
const MONTH = 30;

/** Null where the log is too short, or has too few measures. */
export function resistanceTrend(measures: readonly Measure[]): ResistanceTrend | null {
  if (measures.length === 0) return null;
  let from = Infinity;
  let to = -Infinity;
  for (const { at } of measures) {
    from = Math.min(from, at);
    to = Math.max(to, at);
  }
  if (to - from < STRETCHES.days * DAY) return null;
  const length = Math.max(DAY, (to - from) / STRETCHES.most);
  const stretches = new Map<number, Measure[]>();
  for (const one of measures) {
    const k = Math.floor((one.at - from) / length);
    const stretch = stretches.get(k);
    if (stretch) stretch.push(one);
    else stretches.set(k, [one]);
  }
  const points = [...stretches]
    .filter(([, some]) => some.length >= STRETCHES.measures)
    .sort(([a], [b]) => a - b)
    .map(([k, some]) => {
      const weight = some.reduce((total, one) => total + one.weight, 0);
      const ohms = some.reduce((total, one) => total + one.weight * one.ohms, 0) / weight;
      return { at: from + (k + 0.5) * length, ohms };
    });
  if (points.length < STRETCHES.fewest) return null;
  const { slope, slopeError } = fitLine(
    points.map((one) => (one.at - from) / DAY),
    points.map((one) => one.ohms),
  );
  return { points, aMonth: MONTH * slope, error: MONTH * slopeError };
}

/** It rises or falls for sure, and by enough to matter: parts of it a month. */
const SURE = 3;
const MATTERS = 0.08;

export const isMoving = ({ aMonth, error }: ResistanceTrend, ohms: number): boolean =>
  Math.abs(aMonth) > SURE * error && Math.abs(aMonth) > MATTERS * ohms;
