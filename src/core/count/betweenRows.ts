/** What flowed between the rows of a monitor that seldom writes one. */

import { interpolateAt } from '../log/interpolateAt';
import { meansAround } from '../log/meansAround';
import { isFiner, movesApart } from '../log/seldom';
import type { Timeline } from '../log/timeline';
import { isNumber } from '../quantity/numbers';
import type { CounterLog } from './counterLog';

/**
 * What the means of the devices' own logs add to their currents at the moments of the monitor's rows, A. Null where no log is finer, or
 * where the monitor writes means itself: then it moves as theirs.
 * @param amps into the battery at the monitor's rows, A. @param isSeen whether the monitor sees a device
 */
export function betweenRows(
  { series }: Timeline,
  log: CounterLog,
  amps: Float32Array,
  isSeen: (device: string) => boolean,
): Float32Array | null {
  const moments = new Float32Array(amps.length);
  const means = new Float32Array(amps.length);
  let isAny = false;
  for (const one of series) {
    if (one.device === log.device || !isSeen(one.device) || !isFiner(one.time, log.time)) continue;
    for (const [channel, sign] of [
      ['source_current', 1],
      ['load_current', -1],
    ] as const) {
      const values = one.channels[channel];
      if (!values) continue;
      isAny = true;
      const moment = interpolateAt(one.time, values, log.time);
      const around = meansAround(one.time, values, log.time);
      for (let i = 0; i < amps.length; i++) {
        if (!isNumber(moment[i]!) || !isNumber(around[i]!)) continue;
        moments[i]! += sign * moment[i]!;
        means[i]! += sign * around[i]!;
      }
    }
  }
  if (!isAny || !(movesApart(amps, moments) < movesApart(amps, means))) return null;
  return means.map((one, i) => one - moments[i]!);
}
