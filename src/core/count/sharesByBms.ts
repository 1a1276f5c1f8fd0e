/** How much of each device's current the monitor shows, beside the BMS's meter. */

import { quantile } from '../quantity/numbers';
import type { Grid } from '../log/grid';
import { logOf, type Timeline } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import { besideOf } from './beside';
import type { CounterLog } from './counterLog';
import { robustLeastSquares } from './leastSquares';
import { devicesWithCurrent, LEAST_CELLS, type Share } from './shares';

/**
 * What the BMS sees and the monitor does not, against each device's own current: beside it a device that bypasses the monitor shows
 * whether or not somebody holds the voltage. Null without a BMS, or where all flows alike.
 */
export function sharesByBms(
  system: KnownSystem,
  timeline: Timeline,
  log: CounterLog,
  grid: Grid,
  amps: Float32Array,
): Share[] | null {
  const bms = logOf(timeline, 'bms', 'battery_current');
  if (!bms || log.device === 'bms') return null;
  const beside = besideOf(log, grid, amps, bms);
  const whole = beside(bms.time, bms.channels.battery_current!);
  const devices = devicesWithCurrent(system).flatMap(({ id, kind, channel }) => {
    const own = logOf(timeline, id, channel);
    return own ? [{ id, kind, amps: beside(own.time, own.channels[channel]!) }] : [];
  });
  const all = [amps, whole, ...devices.map((one) => one.amps)];
  const cells: number[] = [];
  for (let i = 0; i < grid.count; i++) {
    let known = true;
    for (const one of all) if (one[i]! !== one[i]!) known = false;
    if (known) cells.push(i);
  }
  const column = (of: (cell: number) => number) => Float64Array.from(cells, of);
  const doesMove = (one: ArrayLike<number>) =>
    quantile(one, 0.95) - quantile(one, 0.05) > 0.01 * system.bank.capacityAh;
  const moves = devices.filter((one) => doesMove(one.amps));
  if (cells.length < LEAST_CELLS || moves.length === 0) return null;
  const flows = moves.map(({ kind, amps: own }) => column((i) => (kind === 'source' ? own[i]! : -own[i]!)));
  // What no device wrote down, mostly loads: a monitor that is scaled wrongly, or reversed, shows no more of it than of the rest.
  const rest = Float64Array.from(cells, (i, at) => whole[i]! - flows.reduce((sum, one) => sum + one[at]!, 0));
  const fit = robustLeastSquares({
    columns: [...flows, column(() => 1), ...(doesMove(rest) ? [rest] : [])],
    values: column((i) => whole[i]! - amps[i]!),
  });
  if (!fit) return null;
  return moves.map(({ id, kind }, k) => ({
    id,
    kind,
    share: 1 - fit.values[k]!,
    error: fit.errors[k]! * Math.sqrt(10),
    steps: Math.min(100, Math.round(cells.length / 30)),
  }));
}
