/** What a trial on the bench comes to, in words. */

import type { Trial } from '@/core/count/bench';
import { counted } from '@/core/quantity/text';

export const offText = ({ off }: Trial): string => (Number.isFinite(off) ? off.toFixed(1) : '–');

/** Why these settings, for the record: what they would have given over this log, beside what was set. */
export const reasonText = (trial: Trial, asSet: Trial | undefined): string =>
  `Replayed over the log of this job they are ${offText(trial)} points off as a rule, with ${syncsText(trial)}${asSet ? `; the settings before: ${offText(asSet)} points, with ${syncsText(asSet)}` : ''}.`;

const syncsText = ({ syncs, wrong }: Trial): string =>
  `${counted(syncs, 'sync')}, ${wrong === 0 ? 'none' : wrong} of them false`;

export function trialText(trial: Trial, fulls: number): string {
  const off = Number.isFinite(trial.off)
    ? `The replayed reading is ${trial.off.toFixed(1)} points off as a rule`
    : 'The error cannot be measured';
  const wrong = trial.wrong === 0 ? 'none of them false' : `${trial.wrong} of them false`;
  const missed =
    fulls === 0
      ? ''
      : trial.missed === 0
        ? '; no full charge is missed'
        : `; ${counted(trial.missed, 'full charge')} of ${fulls} missed`;
  const jump = Number.isFinite(trial.jump)
    ? ` The usual jump at a sync is ${trial.jump.toFixed(1)} points.`
    : '';
  return `${off}, with ${counted(trial.syncs, 'sync')}${trial.syncs > 0 ? `, ${wrong}` : ''}${missed}.${jump}`;
}
