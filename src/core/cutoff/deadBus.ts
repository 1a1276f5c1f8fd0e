/** When the battery's meter, which stands behind the BMS, loses its voltage while the battery gives: the BMS has let go. */

import { gapLimit, medianStep } from '../log/grid';
import { batteryLog, type Timeline } from '../log/timeline';
import { deadVolts } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Moment } from './moment';

/** What flows out is more than the meter's noise, parts of the capacity in A. */
const GIVES = 0.002;
/** Samples that the bus is dead for. */
const STAYS = 2;

/** Each time with what was logged just before, the earliest first. */
export function busDeaths(
  timeline: Timeline,
  bank: KnownBank,
  readMoment: (at: number) => Moment,
): { at: number; moment: Moment }[] {
  const log = batteryLog(timeline, 'battery_voltage');
  if (!log) return [];
  const { time } = log;
  const volts = log.channels.battery_voltage!;
  const dead = deadVolts(bank);
  const limit = gapLimit(medianStep(time));
  const deaths: { at: number; moment: Moment }[] = [];
  for (let i = 1; i + STAYS <= time.length; i++) {
    if (!(volts[i]! < dead && volts[i - 1]! > dead) || time[i]! - time[i - 1]! > limit) continue;
    if (!volts.subarray(i, i + STAYS).every((one) => one < dead)) continue;
    const moment = readMoment(time[i]!);
    if (moment.amps > GIVES * bank.capacityAh) deaths.push({ at: time[i]!, moment });
  }
  return deaths;
}
