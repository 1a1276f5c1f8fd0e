/** The monitor's current against the BMS's meter of the same current. */

import { mean, quantile, robustDeviation } from '../quantity/numbers';
import { type Grid, toGrid } from '../log/grid';
import { logOf, type Timeline } from '../log/timeline';
import type { CounterLog } from './counterLog';
import { robustLeastSquares } from './leastSquares';
import { LEAST_CELLS } from './shares';

/** The monitor's current against another meter of the same current: times the slope, plus the offset, A. */
export interface Against {
  slope: number;
  slopeError: number;
  offsetA: number;
  offsetError: number;
  /** Part of the time by which the two agree more often than they differ twofold: a load that comes and goes makes it large, a zero
   * error does not, however much the meters scatter. */
  comesAndGoes: number;
}

export function againstBms(
  timeline: Timeline,
  log: CounterLog,
  grid: Grid,
  amps: Float32Array,
  capacityAh: number,
): Against | null {
  const bms = logOf(timeline, 'bms', 'battery_current');
  if (!bms || log.device === 'bms' || !log.ampsAreItsOwn) return null;
  const other = toGrid(bms.time, bms.channels.battery_current!, grid);
  const cells: number[] = [];
  for (let i = 0; i < grid.count; i++) if (amps[i]! === amps[i]! && other[i]! === other[i]!) cells.push(i);
  const x = Float64Array.from(cells, (i) => other[i]!);
  if (cells.length < LEAST_CELLS) return null;
  if (quantile(x, 0.95) - quantile(x, 0.05) < 0.02 * capacityAh) {
    // Of a current that hardly moves only the difference can be told.
    const apart = cells.map((i) => amps[i]! - other[i]!);
    const scatter = robustDeviation(apart);
    return {
      slope: 1,
      slopeError: 1,
      offsetA: quantile(apart, 0.5),
      offsetError: scatter / Math.sqrt(apart.length / 10),
      comesAndGoes: comesAndGoes(apart),
    };
  }
  const fit = robustLeastSquares({
    columns: [x, new Float64Array(cells.length).fill(1)],
    values: Float64Array.from(cells, (i) => amps[i]!),
  });
  if (!fit) return null;
  // Loads that stay make neighbours alike: a tenth of the cells speak.
  const [slopeError, offsetError] = Array.from(fit.errors, (one) => one * Math.sqrt(10)) as [number, number];
  const [slope, offsetA] = fit.values as unknown as [number, number];
  const apart = cells.map((i) => amps[i]! - slope * other[i]!);
  return { slope, slopeError, offsetA, offsetError, comesAndGoes: comesAndGoes(apart) };
}

/** Within this part of the mean difference the meters agree, or differ twofold. */
const AGREE = 0.3;

function comesAndGoes(apart: readonly number[]): number {
  const usual = mean(apart);
  const near = (level: number) =>
    apart.reduce((count, one) => count + (Math.abs(one - level) < AGREE * Math.abs(usual) ? 1 : 0), 0);
  return (near(0) - near(2 * usual)) / apart.length;
}
