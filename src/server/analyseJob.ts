/** The diagnosis of a job: the stored one while it is current, else a new one. */

import { CORE_VERSION, type Diagnosis } from '@/core/diagnosis/diagnose';
import { findAnalyses, saveAnalysis, type StoredAnalysis } from '@/store/analyses';
import type { Store } from '@/store/database';
import type { StoredJob } from '@/store/jobs';
import { listRecordings, loadSeries } from '@/store/recordings';
import { analyseInThread } from './threads';

/** Which descriptions an analysis was made from, as one word. */
const describedBy = ({ systemVersion, jobVersion }: StoredJob): string => `${systemVersion}.${jobVersion}`;

export function isCurrent(
  analysis: StoredAnalysis | undefined,
  stored: StoredJob,
  recordingIds: readonly string[],
): boolean {
  if (!analysis || analysis.coreVersion !== CORE_VERSION) return false;
  if (analysis.described !== describedBy(stored)) return false;
  return JSON.stringify([...analysis.recordingIds].sort()) === JSON.stringify([...recordingIds].sort());
}

export async function analyseJob(store: Store, job: StoredJob): Promise<Diagnosis> {
  const { id } = job;
  const recordings = await listRecordings(store, id);
  const recordingIds = recordings.map((one) => one.id);
  const stored = (await findAnalyses(store, [id])).get(id);
  if (stored && isCurrent(stored, job, recordingIds)) return stored.result;
  const series = await Promise.all(recordingIds.map((one) => loadSeries(store, one)));
  const result = await analyseInThread({ job: job.job, system: job.system, series });
  await saveAnalysis(store, id, {
    coreVersion: CORE_VERSION,
    recordingIds,
    described: describedBy(job),
    result,
  });
  return result;
}
