/** A few words on the state of each step, for the spine. */

import type { Told } from '@/core/diagnosis/summary';
import { counted } from '@/core/quantity/text';
import { checklistFor } from '@/core/system/checklist';
import { missingBasics } from '@/core/system/known';
import { reviewSettings } from '@/core/system/review/review';
import type { Job, System } from '@/core/system/schema';
import { coverageOf } from '@/core/system/wiring';
import type { StepId } from './steps';

/** @param told null while the logs have not been weighed */
export function stepStates(
  job: Job,
  system: System,
  recordings: number,
  told: Told | null,
): Partial<Record<StepId, string>> {
  const basics = missingBasics(system);
  const items = checklistFor(system, job.works ?? []);
  const answered = items.filter(
    (one) => (job.checks?.[one.id]?.answer ?? 'not-checked') !== 'not-checked',
  ).length;
  const devices = coverageOf(system, job.walk);
  const unknown = devices.filter((one) => one.counted === null).length;
  const unseen = devices.filter((one) => one.counted === false).length;
  const review = reviewSettings(system, job);
  const change = review.sheet.filter((row) => row.verdict === 'change').length;
  return {
    'take-in': basics.length === 0 ? 'described' : `${basics.length} basics missing`,
    'make-safe': `${answered} of ${items.length} looked at`,
    wiring:
      devices.length === 0
        ? 'nothing described'
        : unseen > 0
          ? `${unseen} not counted`
          : unknown > 0
            ? `${unknown} not known`
            : 'all counted',
    settings: review.notes.some((one) => one.weight !== 'remark')
      ? change > 0
        ? `${change} to change`
        : 'see notes'
      : basics.length > 0
        ? 'too little known'
        : 'in order',
    logs: recordings === 0 ? 'none yet' : `${recordings} taken in`,
    ...(told
      ? {
          charging: told.charges === 0 ? 'nothing to see' : counted(told.charges, 'charge'),
          counting:
            told.syncs === null
              ? 'nothing to count'
              : told.syncs.wrong > 0
                ? `${told.syncs.wrong} of ${counted(told.syncs.all, 'sync')} false`
                : told.syncs.all === 0
                  ? 'no sync'
                  : counted(told.syncs.all, 'sync'),
          'cut-offs':
            told.cutoffs === null
              ? 'nothing to see'
              : told.cutoffs === 0
                ? 'none'
                : counted(told.cutoffs, 'cut-off'),
          cells:
            told.cellsApart === null
              ? told.hasRounds
                ? 'hydrometer rounds'
                : 'nothing to see'
              : told.cellsApart === 0
                ? 'level'
                : `${told.cellsApart} apart`,
          weigh: recordings === 0 ? '' : told.found === 0 ? 'nothing found' : `${told.found} found`,
        }
      : {}),
  };
}
