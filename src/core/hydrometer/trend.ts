/**
 * Each cell over the rounds: a line through its gravity, with the band in which the next reading is expected, and the day on which it
 * falls under the limit. Only rounds after a full charge are compared; the others show the state of charge.
 */

import { fitLine, type LineFit } from '../quantity/numbers';
import { DAY } from '../quantity/span';
import { tQuantile } from '../quantity/student';
import type { JudgedRound } from './judge';

export interface CellTrend {
  cell: string;
  points: { at: number; gravity: number }[];
  /** Gravity a year; NaN with fewer than three rounds. */
  aYear: number;
  /** The day on which the line falls under the limit, and the earliest by the band, epoch ms; null where it does not within ten years. */
  under: number | null;
  underEarliest: number | null;
  /** Where the line stands on a day, with the band of one reading on either side (95 %). NaN where no line is. */
  expectedAt(ms: number): { gravity: number; band: number };
}

const YEAR = 365.25 * DAY;
/** Further ahead nobody plans. */
const AHEAD = 10 * YEAR;
/** A cell is worn when it no longer gets so near its full gravity after a full charge (common practice, no source). */
export const WORN = 0.04;

/** Rounds to compare: those after a full charge, else all where none says so. */
export function comparable(rounds: readonly JudgedRound[]): JudgedRound[] {
  const known = rounds.filter(({ round }) => round.afterFullCharge === true);
  return (
    known.length > 0 ? known : rounds.filter(({ round }) => round.afterFullCharge === undefined)
  ).toSorted((a, b) => (a.round.on < b.round.on ? -1 : 1));
}

/** @param full the maker's gravity of a full cell */
export function cellTrends(rounds: readonly JudgedRound[], full: number): CellTrend[] {
  const some = comparable(rounds);
  const cells = [...new Set(some.flatMap(({ readings }) => readings.map((one) => one.cell.toUpperCase())))];
  return cells
    .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }))
    .map((cell) => {
      const points = some.flatMap(({ round, readings }) => {
        const own = readings.find((one) => one.cell.toUpperCase() === cell);
        return own ? [{ at: Date.parse(round.on), gravity: own.corrected }] : [];
      });
      return trendOf(cell, points, full - WORN);
    });
}

function trendOf(cell: string, points: CellTrend['points'], limit: number): CellTrend {
  const from = points[0]?.at ?? 0;
  const x = points.map((one) => (one.at - from) / YEAR);
  const fit = fitLine(
    x,
    points.map((one) => one.gravity),
  );
  const known = points.length >= 3 && Number.isFinite(fit.slope);
  const expectedAt = (ms: number) =>
    known ? predicted(fit, x, (ms - from) / YEAR) : { gravity: NaN, band: NaN };
  const last = points.at(-1)?.at ?? 0;
  return {
    cell,
    points,
    aYear: known ? fit.slope : NaN,
    under: known ? firstUnder(limit, last, (ms) => expectedAt(ms).gravity) : null,
    underEarliest: known
      ? firstUnder(limit, last, (ms) => {
          const { gravity, band } = expectedAt(ms);
          return gravity - band;
        })
      : null,
    expectedAt,
  };
}

/** Prediction interval of one more reading (Draper & Smith, Applied Regression Analysis, from memory). */
function predicted(fit: LineFit, x: readonly number[], at: number): { gravity: number; band: number } {
  const n = x.length;
  const middle = x.reduce((a, b) => a + b, 0) / n;
  const squares = x.reduce((sum, one) => sum + (one - middle) ** 2, 0);
  const error = fit.residualDeviation * Math.sqrt(1 + 1 / n + (at - middle) ** 2 / squares);
  return { gravity: fit.intercept + fit.slope * at, band: tQuantile(0.975, n - 2) * error };
}

/** The first day from one on at which something is under the limit; null where it is not within ten years. */
function firstUnder(limit: number, from: number, of: (ms: number) => number): number | null {
  for (let at = from; at <= from + AHEAD; at += 7 * DAY) if (of(at) < limit) return at;
  return null;
}
