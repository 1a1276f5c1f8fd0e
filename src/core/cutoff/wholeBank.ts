/** Voltages of half a bank as the whole bank's: a monitor or charger across one half sees half the volts, and limits are those of the whole. */

import type { Series } from '../log/channels';
import type { Timeline } from '../log/timeline';
import { cellsSeenBy } from '../system/bankOf';
import type { KnownSystem } from '../system/known';

const OF_THE_BATTERY = ['battery_voltage', 'source_voltage'] as const;

/** Each half is taken to stand at what the other stands at; the timeline itself where no log sees a half. */
export function asWholeBank(system: KnownSystem, timeline: Timeline): Timeline {
  const sees = (one: Series) => cellsSeenBy(system, one.device);
  if (timeline.series.every((one) => sees(one) === 'bank')) return timeline;
  const series = timeline.series.map((one) => {
    if (sees(one) === 'bank') return one;
    const channels = { ...one.channels };
    for (const channel of OF_THE_BATTERY)
      if (channels[channel]) channels[channel] = channels[channel].map((volts) => 2 * volts);
    return { ...one, channels };
  });
  return { ...timeline, series };
}
