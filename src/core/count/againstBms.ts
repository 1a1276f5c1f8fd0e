/** The monitor's current against the BMS's meter of the same current. */

import { isNumber, mean, median, quantile, robustDeviation } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import { cellStart, type Grid } from '../log/grid';
import { zoneOffsetMinutes } from '../log/localTime';
import { logOf, type Timeline } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import { besideOf } from './beside';
import type { CounterLog } from './counterLog';
import { robustLeastSquares } from './leastSquares';
import { LEAST_CELLS } from './shares';

/** The monitor's current against another meter of the same current: times the slope, plus the offset, A. */
export interface Against {
  slope: number;
  slopeError: number;
  offsetA: number;
  offsetError: number;
  /** Part of the time by which the two agree more often than they differ twofold, or differ by the median more often than by the mean:
   * a load that comes and goes makes it large, a zero error does not, however much the meters scatter. */
  comesAndGoes: number;
  /** Hours of the local day, 0 to 24, in which most of what comes and goes is there; null where it is spread over the day. */
  hours: { from: number; to: number } | null;
}

/** A charger that runs for half an hour a day moves the current all the same. */
const MOST = 0.995;

export function againstBms(
  timeline: Timeline,
  log: CounterLog,
  grid: Grid,
  amps: Float32Array,
  { bank: { capacityAh }, timeZone }: KnownSystem,
): Against | null {
  const bms = logOf(timeline, 'bms', 'battery_current');
  if (!bms || log.device === 'bms' || !log.ampsAreItsOwn) return null;
  const other = besideOf(log, grid, amps, bms)(bms.time, bms.channels.battery_current!);
  const cells: number[] = [];
  for (let i = 0; i < grid.count; i++) if (amps[i]! === amps[i]! && other[i]! === other[i]!) cells.push(i);
  if (cells.length < LEAST_CELLS) return null;
  // As it is: a load by night would be taken for a ratio where charging is by day.
  const apart = cells.map((i) => amps[i]! - other[i]!);
  const seen = cells.map((i) => other[i]!);
  // Of a current that hardly moves only the difference can be told.
  if (quantile(seen, MOST) - quantile(seen, 1 - MOST) < 0.02 * capacityAh)
    return {
      slope: 1,
      slopeError: 1,
      offsetA: quantile(apart, 0.5),
      offsetError: robustDeviation(apart) / Math.sqrt(apart.length / 10),
      ...courseOf(apart, cells, grid, timeZone),
    };
  const ratio = byMoves(other, amps, grid, capacityAh) ?? byLevels(other, amps, cells);
  return ratio && { ...ratio, ...courseOf(apart, cells, grid, timeZone) };
}

type Ratio = Omit<Against, 'comesAndGoes' | 'hours'>;

/** Loads that stay make neighbours alike: a tenth of the cells speak. */
const ALIKE = Math.sqrt(10);

function byLevels(bms: Float32Array, amps: Float32Array, cells: readonly number[]): Ratio | null {
  const fit = robustLeastSquares({
    columns: [Float64Array.from(cells, (i) => bms[i]!), new Float64Array(cells.length).fill(1)],
    values: Float64Array.from(cells, (i) => amps[i]!),
  });
  if (!fit) return null;
  const [slope, offsetA] = fit.values as unknown as [number, number];
  const [slopeError, offsetError] = fit.errors as unknown as [number, number];
  return { slope, slopeError: ALIKE * slopeError, offsetA, offsetError: ALIKE * offsetError };
}

/**
 * Moves are taken over so long; the largest of them speak, each of so much of the capacity at least, A, and so many at least. Meters that
 * do not move at the same moments show too small a ratio both ways: then the moves say nothing.
 */
const MOVES = { lag: 20 * MINUTE, part: 0.2, least: 0.01, fewest: 20, bothWays: 0.9 };

/**
 * The ratio by which the two move together, and what is left apart: a load by night that the monitor does not see makes the levels
 * of day and night differ, and no move. Null where too little moves.
 */
function byMoves(bms: Float32Array, amps: Float32Array, grid: Grid, capacityAh: number): Ratio | null {
  const lag = Math.max(1, Math.round(MOVES.lag / grid.step));
  const moves: { bms: number; amps: number }[] = [];
  for (let i = lag; i < grid.count; i++) {
    const move = { bms: bms[i]! - bms[i - lag]!, amps: amps[i]! - amps[i - lag]! };
    if (isNumber(move.bms) && isNumber(move.amps)) moves.push(move);
  }
  const ratiosTo = (of: 'bms' | 'amps', to: 'bms' | 'amps'): number[] => {
    const sizes = moves.map((one) => Math.abs(one[to]));
    const large = Math.max(MOVES.least * capacityAh, quantile(sizes, 1 - MOVES.part));
    return moves.filter((one) => Math.abs(one[to]) >= large).map((one) => one[of] / one[to]);
  };
  const ratios = ratiosTo('amps', 'bms');
  const slope = median(ratios);
  if (ratios.length < MOVES.fewest * lag || !(slope * median(ratiosTo('bms', 'amps')) > MOVES.bothWays))
    return null;
  const apart: number[] = [];
  for (let i = 0; i < grid.count; i++) {
    const one = amps[i]! - slope * bms[i]!;
    if (isNumber(one)) apart.push(one);
  }
  const rest = robustLeastSquares({
    columns: [new Float64Array(apart.length).fill(1)],
    values: Float64Array.from(apart),
  });
  // Moves that overlap are no moves of their own.
  const slopeError = robustDeviation(ratios) * Math.sqrt(lag / ratios.length);
  return rest && { slope, slopeError, offsetA: rest.values[0]!, offsetError: ALIKE * rest.errors[0]! };
}

const courseOf = (
  apart: readonly number[],
  cells: readonly number[],
  grid: Grid,
  timeZone: string,
): Pick<Against, 'comesAndGoes' | 'hours'> => ({
  comesAndGoes: comesAndGoes(apart),
  hours: hoursOf(apart, cells, grid, timeZone),
});

/** Most of it lies in these hours, so many of them at most; and so many whole days are needed to say so. */
const HOURS = { part: 0.85, most: 14, days: 3 };

/** The shortest stretch of the day, by the hour, in which most of the difference lies. */
function hoursOf(
  apart: readonly number[],
  cells: readonly number[],
  grid: Grid,
  timeZone: string,
): Against['hours'] {
  if (grid.count * grid.step < HOURS.days * 24 * HOUR) return null;
  const total = new Float64Array(24);
  const offset = zoneOffsetMinutes(timeZone, cellStart(grid, 0)) * MINUTE;
  cells.forEach((cell, k) => {
    const hour = Math.floor((((cellStart(grid, cell) + offset) / HOUR) % 24) + 24) % 24;
    total[hour]! += apart[k]!;
  });
  const whole = total.reduce((a, b) => a + b, 0);
  for (let length = 1; length <= HOURS.most; length++)
    for (let from = 0; from < 24; from++) {
      let within = 0;
      for (let k = from; k < from + length; k++) within += total[k % 24]!;
      if (within / whole >= HOURS.part) return { from, to: (from + length) % 24 || 24 };
    }
  return null;
}

/** Within this part of the mean difference the meters agree, or differ twofold. */
const AGREE = 0.3;

function comesAndGoes(apart: readonly number[]): number {
  const usual = mean(apart);
  const near = (level: number) =>
    apart.reduce((count, one) => count + (Math.abs(one - level) < AGREE * Math.abs(usual) ? 1 : 0), 0);
  // A load that is now larger, now smaller is seldom at its mean.
  return Math.max(near(0) - near(2 * usual), near(median(apart)) - near(usual)) / apart.length;
}
