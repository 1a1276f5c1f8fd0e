/** What other devices logged beside the cells of a monitor's log. */

import { type Grid, toGrid } from '../log/grid';
import { interpolateAt } from '../log/interpolateAt';
import { isNumber, mean } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import type { Series } from '../log/channels';
import type { CounterLog } from './counterLog';

/** Cells as long as this hold other currents than that of their row. */
const SELDOM = 5 * MINUTE;

/** Another log's values in the cells of the monitor's. */
type Beside = (time: Float64Array, values: Float32Array) => Float32Array;

/**
 * By means of the cells, or by the moments of the monitor's rows: a monitor that writes a row an hour shows the current of that moment, or
 * the mean of the hour. What moves more alike beside the BMS's meter is taken.
 * @param amps the monitor's current in the cells, A. @param bms a log with `battery_current`
 */
export function besideOf(log: CounterLog, grid: Grid, amps: Float32Array, bms: Series): Beside {
  const byCells: Beside = (time, values) => toGrid(time, values, grid);
  if (grid.step < SELDOM) return byCells;
  const byRows: Beside = (time, values) => toGrid(log.time, interpolateAt(time, values, log.time), grid);
  // By the moves: levels lie apart by whatever the monitor does not see.
  const scatter = (way: Beside) => {
    const other = way(bms.time, bms.channels.battery_current!);
    const apart = Array.from(amps, (one, i) => one - other[i]!);
    return mean(apart.flatMap((one, i) => (i > 0 ? Math.abs(one - apart[i - 1]!) : [])).filter(isNumber));
  };
  return scatter(byRows) < scatter(byCells) ? byRows : byCells;
}
