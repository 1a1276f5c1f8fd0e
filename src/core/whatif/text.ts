/** What a replay of charging comes to, in sentences. */

import { HOUR } from '../quantity/span';
import { capital, counted, duration, volts } from '../quantity/text';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Outcome, ReplayError } from './replay';

/** A replay of what was that is further off than this is no ground for a setting: points of charge, V a 12 V block. */
const TOO_FAR = { points: 6, volts: 0.5 };

export const isTooFar = ({ points, volts }: ReplayError, bank: KnownBank): boolean =>
  !(points <= TOO_FAR.points && volts <= TOO_FAR.volts * blocksInSeries(bank));

/** How well the replay gives what was. */
export function fitText(error: ReplayError, charges: number, bank: KnownBank): string {
  const off = `With the settings as they were, the replay comes out ${error.points.toFixed(1)} points of charge and ${volts(error.volts)} off on average; the battery was fitted to ${counted(charges, 'charge')}.`;
  const went = Math.abs(error.ampHours - 1) > NOTABLE_SHARE ? ` ${throughText(error.ampHours)}` : '';
  return isTooFar(error, bank)
    ? `${off}${went} That is too far off to choose a setting by: look at the differences only, and check on site.`
    : `${off}${went}`;
}

/** Ampere-hours that part by less are no news, parts. */
const NOTABLE_SHARE = 0.1;

const throughText = (share: number): string =>
  share > 1
    ? `It puts ${Math.round(100 * (share - 1))} % more ampere-hours into the battery than were logged, so it overstates gassing.`
    : `It puts ${Math.round(100 * (1 - share))} % fewer ampere-hours into the battery than were logged.`;

/** What no replay can know. */
export function unknowns(bank: KnownBank, { sun, silentMs }: { sun: boolean; silentMs: number }): string[] {
  return [
    ...(silentMs >= HOUR
      ? [`The log is silent for ${duration(silentMs)}: there nothing flows, and the charge stands.`]
      : []),
    ...(sun
      ? [
          'What the sun could have given while a charger held back is taken from other hours and days of this log, mirrored at noon; where none was free, from a half wave between sunrise and sunset.',
        ]
      : []),
    'Loads are taken as they were: what would have run longer on a fuller battery is not in it.',
    'A voltage far above those in the log, or a battery fuller than it ever was, follows what batteries of this kind usually do, not what this battery showed.',
    ...(isLead(bank.chemistry)
      ? ['A sulphated battery that recovers over weeks of full charges is taken as it is now.']
      : ['All cells are taken as alike: a cell that runs ahead would stop the charge earlier.']),
  ];
}

/** A battery that is past empty holds nothing. */
export const chargeText = (value: number): string => `${Math.max(0, Math.round(value))} %`;

/** One outcome beside another, "Full on 14 of 19 days instead of 0; …". */
export function comparedText(now: Outcome, was: Outcome, bank: KnownBank): string {
  const parts = [
    `full on ${now.fullDays} of ${counted(now.days, 'day')} instead of ${was.fullDays}`,
    `a day’s highest charge ${chargeText(now.topPercent)} instead of ${chargeText(was.topPercent)} on average`,
    `lowest ${chargeText(now.lowestPercent)} instead of ${chargeText(was.lowestPercent)}`,
    ...(isLead(bank.chemistry)
      ? [`${now.gassedAh.toFixed(0)} Ah lost to gassing instead of ${was.gassedAh.toFixed(0)}`]
      : []),
  ];
  const text = parts.join('; ');
  return `${capital(text)}.`;
}

/** Why a setting is taken over. */
export const replayReason = (now: Outcome, was: Outcome, error: ReplayError, bank: KnownBank): string =>
  `Replay of the logged weather and loads: ${comparedText(now, was, bank)} ${fitText(error, 0, bank).replace(/; the battery was fitted to 0 charges/, '')}`;
