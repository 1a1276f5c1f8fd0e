/** A few words on the state of each step, for the spine. */

import type { JobDigest } from '@/core/diagnosis/summary';
import { counted } from '@/core/quantity/text';
import { checklistFor } from '@/core/system/checklist';
import { missingBasics } from '@/core/system/known';
import { reviewSettings } from '@/core/system/review/review';
import type { Job, System } from '@/core/system/schema';
import { coverageOf } from '@/core/system/wiring';
import type { StepId } from './steps';

/** @param digest null while the logs have not been weighed */
export function stepStates(
  job: Job,
  system: System,
  recordings: number,
  digest: JobDigest | null,
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
    ...(digest
      ? {
          charging: digest.charges === 0 ? 'nothing to see' : counted(digest.charges, 'charge'),
          counting:
            digest.syncs === null
              ? 'nothing to count'
              : digest.syncs.wrong > 0
                ? `${digest.syncs.wrong} of ${counted(digest.syncs.all, 'sync')} false`
                : digest.syncs.all === 0
                  ? 'no sync'
                  : counted(digest.syncs.all, 'sync'),
          'cut-offs':
            digest.cutoffs === null
              ? 'nothing to see'
              : digest.cutoffs === 0
                ? 'none'
                : counted(digest.cutoffs, 'cut-off'),
          cells:
            digest.cellsApart === null
              ? digest.hasRounds
                ? 'hydrometer rounds'
                : 'nothing to see'
              : digest.cellsApart === 0
                ? 'level'
                : `${digest.cellsApart} apart`,
          weigh: recordings === 0 ? '' : digest.found === 0 ? 'nothing found' : `${digest.found} found`,
        }
      : {}),
  };
}
