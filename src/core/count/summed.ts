/** What another device would have counted by: the currents of some devices, less those of others, on the monitor's clock. */

import { logOf, type Timeline } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import type { CounterLog } from './counterLog';
import { interpolateAt } from '../log/interpolateAt';
import { devicesWithCurrent } from './shares';

/** Ids of devices; `monitor` is the current into the battery itself. */
export interface Currents {
  of: readonly string[];
  less: readonly string[];
}

export const OWN = 'monitor';

/** Null where a device that is asked for has no log of its current. A moment at which one was silent counts as none of it. */
export function summed(
  system: Pick<KnownSystem, 'sources' | 'loads'>,
  timeline: Timeline,
  log: CounterLog,
  { of, less }: Currents,
): CounterLog | null {
  const total = new Float32Array(log.time.length);
  for (const [ids, sign] of [
    [of, 1],
    [less, -1],
  ] as const)
    for (const id of ids) {
      const amps = id === OWN ? log.amps : currentOf(system, timeline, log.time, id);
      if (!amps) return null;
      for (let i = 0; i < total.length; i++) if (amps[i]! === amps[i]!) total[i]! += sign * amps[i]!;
    }
  return { ...log, amps: total, ampsAreItsOwn: false };
}

function currentOf(
  system: Pick<KnownSystem, 'sources' | 'loads'>,
  timeline: Timeline,
  time: Float64Array,
  id: string,
): Float32Array | null {
  const device = devicesWithCurrent(system).find((one) => one.id === id);
  const own = device && logOf(timeline, id, device.channel);
  return own ? interpolateAt(own.time, own.channels[device.channel]!, time) : null;
}
