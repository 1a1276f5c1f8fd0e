/** What a monitor promised an hour before a load went off: hours to its floor at what was drawn then. */

import { firstAtOrAfter } from '../log/grid';
import { logOf, type Timeline } from '../log/timeline';
import { mean } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import type { KnownSystem } from '../system/known';

/** So long before, by what was drawn in the time about it. */
const BEFORE = HOUR;
const ABOUT = 10 * MINUTE;
/** Floor of a monitor where none is set, % (common practice, no source). */
const FLOOR = 0;
/** A promise for a smaller current than this part of the capacity in A is none: it would run for days. */
const DRAWS = 0.005;

/** Hours to go as the reading had it an hour before; NaN where nothing was shown or drawn. */
export function promisedReader({ bank, monitor }: KnownSystem, timeline: Timeline): (at: number) => number {
  const log = logOf(timeline, 'monitor', 'soc', 'battery_current');
  const capacityAh = monitor?.capacityAh ?? bank.capacityAh;
  const floor = monitor?.floorPercent ?? FLOOR;
  if (!log) return () => NaN;
  const { time, channels } = log;
  return (at) => {
    const from = firstAtOrAfter(time, at - BEFORE - ABOUT);
    const to = firstAtOrAfter(time, at - BEFORE + ABOUT);
    const drawn = -mean(channels.battery_current!.subarray(from, to));
    const shown = mean(channels.soc!.subarray(from, to));
    if (!(drawn > DRAWS * bank.capacityAh)) return NaN;
    return ((Math.max(0, shown - floor) / 100) * capacityAh) / drawn;
  };
}
