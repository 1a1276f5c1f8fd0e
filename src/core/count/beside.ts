/** What other devices logged beside the cells of a monitor's log. */

import type { Series } from '../log/channels';
import { type Grid, toGrid } from '../log/grid';
import { interpolateAt } from '../log/interpolateAt';
import { besideRows } from '../log/phase';
import { isNumber, mean } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import type { CounterLog } from './counterLog';

/** Rows so far apart miss what comes and goes between them. */
export const SELDOM = 5 * MINUTE;

/** How far two currents move apart from one row to the next, A, mean. Not their levels: these lie apart by whatever one of them does not see. */
export const movesApart = (one: Float32Array, other: Float32Array): number =>
  mean(
    Array.from(one, (amps, i) =>
      i > 0 ? Math.abs(amps - other[i]! - (one[i - 1]! - other[i - 1]!)) : NaN,
    ).filter(isNumber),
  );

/** Another log's values in the cells of the monitor's. */
type Beside = (time: Float64Array, values: Float32Array) => Float32Array;

/**
 * By means of the cells, or by the moments of the monitor's rows: a monitor that writes a row an hour shows the current of that moment, or
 * the mean of the hour. What moves more alike beside the BMS's meter is taken.
 * @param amps the monitor's current in the cells, A. @param bms a log with `battery_current`
 */
export function besideOf(log: CounterLog, grid: Grid, amps: Float32Array, bms: Series): Beside {
  const byCells: Beside = (time, values) => toGrid(besideRows(time, log.time), values, grid);
  if (grid.step < SELDOM) return byCells;
  const byRows: Beside = (time, values) => toGrid(log.time, interpolateAt(time, values, log.time), grid);
  const scatter = (way: Beside) => movesApart(amps, way(bms.time, bms.channels.battery_current!));
  return scatter(byRows) < scatter(byCells) ? byRows : byCells;
}
