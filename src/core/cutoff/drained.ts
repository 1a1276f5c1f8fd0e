/** Where a lithium pack is down at what its BMS lets it down to: what flows out then, and all at once no longer, was stopped. */

import { medianStep } from '../log/grid';
import { batteryLog, type Timeline } from '../log/timeline';
import { median } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownBank, KnownSystem } from '../system/known';
import { bankOhms } from '../system/sag';
import type { Moment } from './moment';

/** V a cell: the usual limit, and so much over it the mean may stand: near empty cells of one make stand a tenth of a volt and two apart (common practice, no source). */
const LIMIT = { volts: 2.5, meanOver: 0.2 };
/** What flows out is more than the meter's noise: parts of the capacity in A. */
export const FLOWS = 0.003;
/** So long before it flows, and so long after it does not, by the middle of at least so many samples; of what flowed so much is nothing. */
const SEEN = { ms: 20 * MINUTE, samples: 3, nothing: 0.2 };

/** A lithium pack whose cells are not logged is down at what a BMS lets them down to. */
export const isDrained = (
  { lowestV, volts }: Pick<Moment, 'lowestV' | 'volts'>,
  { bank, bms }: KnownSystem,
): boolean =>
  !isLead(bank.chemistry) &&
  lowestV !== lowestV &&
  volts <= ((bms?.cellLowV ?? LIMIT.volts) + LIMIT.meanOver) * bank.cellsInSeries;

/** V a 12 V block by which a load pulls a battery down at the least for its going to show. */
const RISES = 0.02;
/** So small a load that its going shows in no voltage. @param fell A */
export const isTooSmallToShow = (fell: number, bank: KnownBank): boolean =>
  fell * bankOhms(bank) < RISES * blocksInSeries(bank);

/** Each time with what was logged just before, the earliest first: by the battery's own current, however little flows. */
export function drainedStops(
  timeline: Timeline,
  system: KnownSystem,
  readMoment: (at: number) => Moment,
): { at: number; moment: Moment }[] {
  const log = batteryLog(timeline, 'battery_current');
  if (!log || isLead(system.bank.chemistry)) return [];
  const { time } = log;
  const amps = log.channels.battery_current!;
  const least = FLOWS * system.bank.capacityAh;
  const samples = Math.max(SEEN.samples, Math.round(SEEN.ms / medianStep(time)));
  const stops: { at: number; moment: Moment }[] = [];
  for (let i = samples; i + samples <= time.length; i++) {
    if (!(amps[i - 1]! < -least && amps[i]! > amps[i - 1]! / 2)) continue;
    const before = median(amps.subarray(i - samples, i));
    // The row in which it stops is a mean of both.
    const after = median(amps.subarray(i, i + samples));
    if (!(before < -least && Math.abs(after) < SEEN.nothing * -before)) continue;
    if (amps.subarray(i + 1, i + samples).some((one) => one < before / 2)) continue;
    const moment = readMoment(time[i]!);
    // A source without a log that takes over what was drawn leaves the voltage where it is.
    const letGo = moment.after > moment.volts || isTooSmallToShow(-before, system.bank);
    if (letGo && isDrained(moment, system)) stops.push({ at: time[i]!, moment });
  }
  return stops;
}
