/** What flows through the half of a split bank in which the monitor does not sit. */

import type { System } from '../system/schema';
import { interpolateAt } from './interpolateAt';
import { type BatteryCurrent, logOf, type Timeline } from './timeline';

/** The half that the monitor does not see; null where it sees the whole bank, or where nobody said. */
export const unseenHalf = ({ monitor }: Pick<System, 'monitor'>): 'lower' | 'upper' | null =>
  monitor?.sees === 'lower' ? 'upper' : monitor?.sees === 'upper' ? 'lower' : null;

/**
 * The loads draw the same current through both halves; what differs is what the chargers of each half give it. Null where the monitor
 * sees the whole bank, or where a charger of a half has no log of its own.
 * @param seen current through the half that the monitor sees, A, positive when charging; as the monitor logged it where none is given
 */
export function currentOfOtherHalf(
  system: Pick<System, 'monitor' | 'sources'>,
  timeline: Timeline,
  seen: BatteryCurrent | null = loggedByMonitor(timeline),
): BatteryCurrent | null {
  const other = unseenHalf(system);
  const chargers = system.sources.filter((one) => (one.across ?? 'bank') !== 'bank');
  if (!other || !seen || chargers.length === 0) return null;
  const amps = Float32Array.from(seen.amps);
  for (const { id, across } of chargers) {
    const log = logOf(timeline, id, 'source_current');
    if (!log) return null;
    const sign = across === other ? 1 : -1;
    interpolateAt(log.time, log.channels.source_current!, seen.time).forEach((one, i) => {
      amps[i]! += sign * one;
    });
  }
  return { time: seen.time, amps };
}

function loggedByMonitor(timeline: Timeline): BatteryCurrent | null {
  const log = logOf(timeline, 'monitor', 'battery_current');
  return log && { time: log.time, amps: log.channels.battery_current! };
}
