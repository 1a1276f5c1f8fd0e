/** Discharges from full that the logs of a system's jobs show, the latest first. */

import type { Diagnosis } from '@/core/diagnosis/result';
import { findAnalyses } from '@/store/analyses';
import type { Store } from '@/store/database';
import { jobsOn } from '@/store/jobs';

export interface JobDischarge {
  jobId: string;
  title: string;
  one: NonNullable<Diagnosis['discharge']>['fromFull'][number];
}

/** More than these nobody reads. */
const MOST = 12;

/** As last weighed; those that emptied the battery go before the others. */
export async function dischargesOf(store: Store, systemId: string): Promise<JobDischarge[]> {
  const jobs = await jobsOn(store, systemId);
  const analyses = await findAnalyses(
    store,
    jobs.map((one) => one.id),
  );
  const all = jobs.flatMap(({ id, title }) =>
    (analyses.get(id)?.result.discharge?.fromFull ?? []).map((one) => ({ jobId: id, title, one })),
  );
  return all
    .sort(
      (a, b) =>
        Number(b.one.holds !== null) - Number(a.one.holds !== null) || b.one.from.localeCompare(a.one.from),
    )
    .slice(0, MOST);
}
