/** The voltage of one half of a split bank, by what was logged of the whole and of its middle. */

import { quantile } from '../quantity/numbers';
import type { Source } from '../system/schema';
import { type Grid, toGrid } from './grid';
import { anyLogWith, type Timeline } from './timeline';

/** V a 12 V block above which a voltage is that of both halves. */
const BOTH = 18;

/**
 * @param volts logged of the battery, V: of the whole bank, or of the half that the monitor sees
 * @param blocks 12 V blocks of the half
 * @returns V of the half; null where only the whole was logged
 */
export function halfVolts(
  volts: Float32Array,
  half: Exclude<NonNullable<Source['across']>, 'bank'>,
  blocks: number,
  timeline: Timeline,
  grid: Grid,
): Float32Array | null {
  if (!isOfBoth(volts, blocks)) return volts;
  const log = anyLogWith(timeline, 'midpoint_voltage');
  if (!log) return null;
  const middle = toGrid(log.time, log.channels.midpoint_voltage!, grid);
  return half === 'lower' ? middle : middle.map((one, i) => volts[i]! - one);
}

/** Whether a voltage is that of the whole bank. @param blocks 12 V blocks of a half */
export const isOfBoth = (volts: Float32Array, blocks: number): boolean =>
  quantile(volts, 0.5) > BOTH * blocks;
