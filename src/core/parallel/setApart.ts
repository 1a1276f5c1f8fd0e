/**
 * Logs of single batteries of a bank are no logs of the bank: they are set apart before the bank is judged. Where every battery was logged
 * and no BMS of the whole, their sum stands for it.
 */

import { interpolateAt } from '../log/interpolateAt';
import type { Channel, Series } from '../log/channels';
import { timelineOf, type Timeline } from '../log/timeline';
import type { System } from '../system/schema';

export interface BatteryLog {
  id: string;
  name: string;
  /** Part of the bank's capacity that it has by its label. */
  part: number;
  log: Series;
}

export interface SetApart<T extends Timeline> {
  timeline: T;
  batteries: BatteryLog[];
}

export function setApart<T extends Timeline>({ batteries = [] }: System, timeline: T): SetApart<T> {
  const found = batteries.flatMap((one): BatteryLog[] => {
    const log = timeline.series.find(({ device }) => device === one.id);
    return log ? [{ id: one.id, name: one.name, part: partOf(batteries, one.capacityAh), log }] : [];
  });
  if (found.length === 0) return { timeline, batteries: [] };
  const others = timeline.series.filter(({ device }) => !batteries.some((one) => one.id === device));
  const isWhole = found.length === batteries.length && !others.some((one) => one.device === 'bms');
  const series = isWhole ? [...others, summed(found)] : others;
  // Before any log of the bank there is nothing to judge.
  return {
    timeline: { ...timeline, ...(series.length > 0 ? timelineOf(series) : { series }) },
    batteries: found,
  };
}

/** By its label; where the labels are not all known, all have the same part. */
function partOf(all: readonly { capacityAh?: number | undefined }[], own: number | undefined): number {
  const total = all.reduce((sum, one) => sum + (one.capacityAh ?? NaN), 0);
  return own !== undefined && total > 0 ? own / total : 1 / all.length;
}

/** Their currents added, their voltages and temperatures on the mean, their percentages by their parts; at the times of the first. */
function summed(batteries: readonly BatteryLog[]): Series {
  const { time } = batteries[0]!.log;
  const add = (channel: Channel, weightOf: (one: BatteryLog) => number): Float32Array | null => {
    if (!batteries.every(({ log }) => log.channels[channel])) return null;
    const total = new Float32Array(time.length);
    for (const one of batteries) {
      const values = interpolateAt(one.log.time, one.log.channels[channel]!, time);
      for (let i = 0; i < total.length; i++) total[i]! += weightOf(one) * values[i]!;
    }
    return total;
  };
  const mean = () => 1 / batteries.length;
  const channels: Series['channels'] = {};
  for (const [channel, weightOf] of [
    ['battery_current', () => 1],
    ['battery_voltage', mean],
    ['battery_temperature', mean],
    ['soc', (one: BatteryLog) => one.part],
  ] as const) {
    const values = add(channel, weightOf);
    if (values) channels[channel] = values;
  }
  return { device: 'bms', time, channels };
}
