/** The logs with the battery's current put right, for all that leans on it. */

import type { Timeline } from '../log/timeline';
import type { CounterLog } from './counterLog';
import { trueCurrent, type Wrong } from './trueCurrent';

export const isWrong = ({ gain, unseen }: Wrong): boolean => gain !== 1 || unseen.length > 0;

/** The same timeline where the monitor's current is what it ought to have shown; itself where nothing is wrong with it. */
export function corrected<T extends Timeline>(timeline: T, log: CounterLog, wrong: Wrong): T {
  if (!isWrong(wrong) || !log.ampsAreItsOwn) return timeline;
  const amps = trueCurrent(timeline, log, wrong);
  return {
    ...timeline,
    series: timeline.series.map((one) =>
      one.device === log.device ? { ...one, channels: { ...one.channels, battery_current: amps } } : one,
    ),
  };
}
