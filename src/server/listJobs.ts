/** A page of the job list: every job with what has been found so far. */

import type { JobSummary } from '@/core/diagnosis/summary';
import { reviewSettings } from '@/core/system/review/review';
import { coreHash } from './coreHash';
import type { Store } from '@/store/database';
import { type JobQuery, listJobs as storedJobs, type Page } from '@/store/lists';

export async function listJobs(store: Store, query: JobQuery = {}): Promise<Page<JobSummary>> {
  const { rows, next } = await storedJobs(store, query);
  return {
    next,
    rows: rows.map(({ id, systemId, job, system, recordings, headline, weighed }) => ({
      id,
      systemId,
      title: job.title,
      system: system.name,
      complaints: job.complaints,
      openedAt: job.openedAt,
      recordings,
      toChange: reviewSettings(system, job).sheet.filter((row) => row.verdict === 'change').length,
      headline: headline === undefined ? null : (headline ?? 'nothing'),
      stale: weighed !== null && !(weighed.asDescribed && weighed.core === coreHash()),
    })),
  };
}
