/** What the monitor shows while no charger gives anything, by the chargers' own logs: the loads, and these flow out of the battery. */

import { isNumber, mean } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { type Grid, toGrid } from '../log/grid';
import { besideRows } from '../log/phase';
import { logOf, type Timeline } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import type { CounterLog } from './counterLog';

export interface WhileIdle {
  hours: number;
  /** Mean of what the monitor shows then, A. */
  amps: number;
  /** By how much more it shows while chargers give, in parts of what they give: 1 where it sees them all, −1 where it is turned round. */
  share: number;
}

/** All chargers together give nothing under the one, and plainly something over the other; what is shown tells from here: parts of the capacity in A. */
const OFF = 0.003;
const GIVE = 0.02;
const TELLS = 0.004;
/** So long of both tells, ms. */
const LEAST = 2 * HOUR;

/** Null where a source has no log of its own, where too little of either was logged, or next to nothing flows. */
export function whileIdle(
  { bank: { capacityAh }, sources }: Pick<KnownSystem, 'bank' | 'sources'>,
  timeline: Timeline,
  log: CounterLog,
  grid: Grid,
  shown: Float32Array,
): WhileIdle | null {
  const logs = sources.map(({ id }) => logOf(timeline, id, 'source_current'));
  const own = logs.flatMap((one) => (one && one.device !== log.device ? [one] : []));
  if (own.length === 0 || own.length < sources.length) return null;
  const each = own.map(({ time, channels }) =>
    toGrid(besideRows(time, log.time), channels.source_current!, grid),
  );
  const given = shown.map((_, cell) => each.reduce((sum, one) => sum + one[cell]!, 0));
  const cells = [...shown.keys()].filter((cell) => isNumber(shown[cell]!) && isNumber(given[cell]!));
  const idle = cells.filter((cell) => Math.abs(given[cell]!) <= OFF * capacityAh);
  const giving = cells.filter((cell) => given[cell]! >= GIVE * capacityAh);
  if (Math.min(idle.length, giving.length) * grid.step < LEAST) return null;
  const amps = mean(idle.map((cell) => shown[cell]!));
  if (Math.abs(amps) < TELLS * capacityAh) return null;
  const more = mean(giving.map((cell) => shown[cell]!)) - amps;
  return {
    hours: (idle.length * grid.step) / HOUR,
    amps,
    share: more / mean(giving.map((cell) => given[cell]!)),
  };
}
