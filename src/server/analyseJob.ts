/** The diagnosis of a job: the stored one while it is current, else a new one. */

import type { Series } from '@/core/log/channels';
import { CORE_VERSION, type Diagnosis } from '@/core/diagnosis/diagnose';
import { findAnalyses, saveAnalysis, type StoredAnalysis } from '@/store/analyses';
import type { Store } from '@/store/database';
import type { RecordingInfo } from '@/core/log/recording';
import type { StoredJob } from '@/store/jobs';
import { listRecordings } from '@/store/recordings';
import { loadSeries } from '@/store/samples';
import { analyseInThread } from './threads';

/** Which descriptions and clocks an analysis was made from, as one word. */
const describedBy = (
  { systemVersion, jobVersion }: StoredJob,
  recordings: readonly RecordingInfo[],
): string => [systemVersion, jobVersion, ...recordings.map((one) => one.clockVersion)].join('.');

export function isCurrent(
  analysis: StoredAnalysis | undefined,
  stored: StoredJob,
  recordings: readonly RecordingInfo[],
): boolean {
  if (!analysis || analysis.coreVersion !== CORE_VERSION) return false;
  if (analysis.described !== describedBy(stored, recordings)) return false;
  const ids = recordings.map((one) => one.id);
  return JSON.stringify([...analysis.recordingIds].sort()) === JSON.stringify(ids.sort());
}

export async function analyseJob(store: Store, job: StoredJob): Promise<Diagnosis> {
  const { id } = job;
  const recordings = await listRecordings(store, id);
  const recordingIds = recordings.map((one) => one.id);
  const stored = (await findAnalyses(store, [id])).get(id);
  if (stored && isCurrent(stored, job, recordings)) return stored.result;
  const series: Series[] = [];
  for (const one of recordingIds) series.push(await loadSeries(store, one));
  const result = await analyseInThread({ job: job.job, system: job.system, series });
  await saveAnalysis(store, id, {
    coreVersion: CORE_VERSION,
    recordingIds,
    described: describedBy(job, recordings),
    result,
  });
  return result;
}
