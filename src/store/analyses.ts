/** Analyses: what the logs of a job show, and the diagnosis that it comes to. One of each a job, with the core that made it. */

import { deserialize, serialize } from 'node:v8';
import type { Diagnosis } from '@/core/diagnosis/result';
import { headlineOf } from '@/core/diagnosis/summary';
import type { Observed } from '@/core/diagnosis/observe';
import type { Store } from './database';

export interface StoredAnalysis {
  core: string;
  recordingIds: string[];
  /** Versions of system and job that it was made from. */
  described: string;
  result: Diagnosis;
}

export async function saveAnalysis(store: Store, jobId: string, analysis: StoredAnalysis): Promise<void> {
  const headline = headlineOf(analysis.result.findings);
  const values = {
    core: analysis.core,
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
        core: row.core,
        recordingIds: row.recording_ids,
        described: row.described,
        result: row.result,
      },
    ]),
  );
}

/** @param madeFrom what it depends on, in one word */
export async function saveObserved(
  store: Store,
  jobId: string,
  madeFrom: string,
  observed: Observed,
): Promise<void> {
  const values = { made_from: madeFrom, observed: serialize(observed) };
  await store
    .insertInto('observations')
    .values({ job_id: jobId, ...values })
    .onConflict((conflict) => conflict.column('job_id').doUpdateSet(values))
    .execute();
}

/** Null when none was kept that was made from the same. */
export async function findObserved(store: Store, jobId: string, madeFrom: string): Promise<Observed | null> {
  const row = await store
    .selectFrom('observations')
    .select('observed')
    .where('job_id', '=', jobId)
    .where('made_from', '=', madeFrom)
    .executeTakeFirst();
  return row ? (deserialize(row.observed) as Observed) : null;
}
