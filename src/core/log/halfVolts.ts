/** The voltage of one half of a split bank, by what was logged of the whole and of its middle. */

import { quantile } from '../quantity/numbers';
import { bankOf } from '../system/bankOf';
import { blocksInSeries } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Source } from '../system/schema';
import { type Grid, toGrid } from './grid';
import { anyLogWith, type Timeline } from './timeline';

/** V a 12 V block of a half above which a voltage is that of both halves. */
const BOTH = 18;

/**
 * @param volts logged of the battery, V: of the whole bank, or of the half that the monitor sees; in the cells of the grid
 * @returns V of the half; null where neither that nor the middle of the whole was logged
 */
export function halfVolts(
  volts: Float32Array,
  half: Exclude<NonNullable<Source['across']>, 'bank'>,
  system: Pick<KnownSystem, 'bank' | 'monitor'>,
  timeline: Timeline,
  grid: Grid,
): Float32Array | null {
  const isOfBoth = quantile(volts, 0.5) > BOTH * blocksInSeries(bankOf(system, { across: half }));
  if (!isOfBoth) return system.monitor?.sees === half ? volts : null;
  const log = anyLogWith(timeline, 'midpoint_voltage');
  if (!log) return null;
  const middle = toGrid(log.time, log.channels.midpoint_voltage!, grid);
  return half === 'lower' ? middle : middle.map((one, i) => volts[i]! - one);
}
