/** What other devices logged beside the cells of a monitor's log. */

import type { Series } from '../log/channels';
import { type Grid, toGrid } from '../log/grid';
import { interpolateAt } from '../log/interpolateAt';
import { besideRows } from '../log/phase';
import { movesApart, SELDOM } from '../log/seldom';
import type { CounterLog } from './counterLog';

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
