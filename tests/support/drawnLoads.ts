/** Drawn logs of a load beside a battery, and the cut-offs that are found in them. */

import type { Series } from '@/core/log/channels';
import { timelineOf } from '@/core/log/timeline';
import type { KnownSystem } from '@/core/system/known';
import { judgeDrops } from '@/core/cutoff/findCutOffs';
import { loadCurrents } from '@/core/cutoff/loadCurrents';
import { mean } from '@/core/quantity/numbers';

export const MINUTE = 60_000;
/** Minutes. */
export const DAY = 1440;

export interface Drawn {
  /** A that the load draws, V at battery and load, percentage shown; by the minute. */
  amps(minute: number): number;
  /** A out of the battery; what the load draws where it is not given. */
  batteryAmps?(minute: number): number;
  volts(minute: number): number;
  loadVolts?(minute: number): number;
  /** A that a charger gives: then it has a log, and the load has none. */
  given?(minute: number): number;
  shown?(minute: number): number;
}

/** Values of each minute, or their means over so many. */
export const column = (of: (minute: number) => number, days: number, every = 1) =>
  Float32Array.from({ length: (days * DAY) / every }, (_, i) =>
    mean(Array.from({ length: every }, (_, k) => of(every * i + k))),
  );

/** The cut-offs of a drawn log. */
export const find = (...of: Parameters<typeof judge>) => judge(...of).list;

/**
 * The cut-offs of a drawn log, and what may be some.
 * @param every minutes that a row is the mean of. @param isHidden a source without a log gives as well, and the battery alone is logged
 */
export function judge(
  {
    amps,
    given,
    batteryAmps = (minute) => amps(minute) - (given?.(minute) ?? 0),
    volts,
    loadVolts,
    shown,
  }: Drawn,
  load: Partial<KnownSystem['loads'][number]> = {},
  { days = 2, every = 1, more = [] as Series[], chemistry = 'agm' as 'agm' | 'lfp', isHidden = false } = {},
) {
  const rows = (of: (minute: number) => number) => column(of, days, every);
  const time = Float64Array.from({ length: (days * DAY) / every }, (_, i) => every * i * MINUTE);
  const monitor: Series = {
    device: 'monitor',
    time,
    channels: {
      battery_voltage: rows(volts),
      battery_current: rows((minute) => -batteryAmps(minute)),
      ...(shown ? { soc: rows(shown) } : {}),
    },
  };
  const beside: Series = given
    ? { device: 'charger', time, channels: { source_current: rows(given) } }
    : {
        device: 'pump',
        time,
        channels: {
          load_current: rows(amps),
          ...(loadVolts ? { load_voltage: rows(loadVolts) } : {}),
        },
      };
  const system = {
    bank: { chemistry, cellsInSeries: chemistry === 'agm' ? 6 : 4, capacityAh: 100 },
    sources: given || isHidden ? [{ id: 'charger', name: 'Charger', ratedA: 20 }] : [],
    loads: [{ id: 'pump', name: 'Pump', counted: true, ...load }],
    timeZone: 'UTC',
  } as unknown as KnownSystem;
  const timeline = timelineOf([monitor, ...(isHidden ? [] : [beside]), ...more]);
  return judgeDrops(system, timeline, loadCurrents(system, timeline, 0), null);
}
