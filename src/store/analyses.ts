/** Analyses: the diagnosis of a job with the version of the core that made it. One a job. */

import type { Diagnosis } from '@/core/diagnosis/diagnose';
import { headlineOf } from '@/core/diagnosis/summary';
import type { Store } from './database';

export interface StoredAnalysis {
  coreVersion: number;
  recordingIds: string[];
  /** Versions of system and job that it was made from. */
  described: string;
  result: Diagnosis;
}

export async function saveAnalysis(store: Store, jobId: string, analysis: StoredAnalysis): Promise<void> {
  const headline = headlineOf(analysis.result.findings);
  const values = {
    core_version: analysis.coreVersion,
    recording_ids: [...analysis.recordingIds].sort(),
    described: analysis.described,
    result: JSON.stringify(analysis.result),
    headline: headline && JSON.stringify(headline),
    standing: headline?.standing ?? null,
  };
  await store
    .insertInto('analyses')
    .values({ job_id: jobId, ...values })
    .onConflict((conflict) => conflict.column('job_id').doUpdateSet(values))
    .execute();
}

export async function findAnalyses(
  store: Store,
  jobIds: readonly string[],
): Promise<Map<string, StoredAnalysis>> {
  if (jobIds.length === 0) return new Map();
  const rows = await store.selectFrom('analyses').selectAll().where('job_id', 'in', jobIds).execute();
  return new Map(
    rows.map((row) => [
      row.job_id,
      {
        coreVersion: row.core_version,
        recordingIds: row.recording_ids,
        described: row.described,
        result: row.result,
      },
    ]),
  );
}
