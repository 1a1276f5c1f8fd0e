/** The diagnosis of a job: the stored one while it is current, else a new one. */

import type { Series } from '@/core/log/channels';
import { CORE_VERSION, type Diagnosis } from '@/core/diagnosis/diagnose';
import { findAnalyses, saveAnalysis, type StoredAnalysis } from '@/store/analyses';
import type { Store } from '@/store/database';
import type { RecordingInfo } from '@/core/log/recording';
import type { StoredJob } from '@/store/jobs';
import { listRecordings } from '@/store/recordings';
import { loadSeries } from '@/store/samples';
import { heavy } from './heavy';
import { analyseInThread } from './threads';

/** Which descriptions and clocks an analysis was made from, as one word. */
const describedBy = (
  { systemVersion, jobVersion }: StoredJob,
  recordings: readonly RecordingInfo[],
): string =>
  [
    systemVersion,
    jobVersion,
    ...recordings.filter((one) => one.unweighed === null).map((one) => one.clockVersion),
  ].join('.');

export function isCurrent(
  analysis: StoredAnalysis | undefined,
  stored: StoredJob,
  recordings: readonly RecordingInfo[],
): boolean {
  if (!analysis || analysis.coreVersion !== CORE_VERSION) return false;
  if (analysis.described !== describedBy(stored, recordings)) return false;
  const ids = recordings.filter((one) => one.unweighed === null).map((one) => one.id);
  return JSON.stringify([...analysis.recordingIds].sort()) === JSON.stringify(ids.sort());
}

/** What is being weighed at the moment, by job and what it is weighed from: whoever asks for the same waits for the same. */
const underWay = new Map<string, Promise<Diagnosis>>();

/** Recordings that could not be weighed are left out. @throws TooMuch, or what the core has thrown */
export async function analyseJob(store: Store, job: StoredJob): Promise<Diagnosis> {
  const { id } = job;
  const recordings = (await listRecordings(store, id)).filter((one) => one.unweighed === null);
  const stored = (await findAnalyses(store, [id])).get(id);
  if (stored && isCurrent(stored, job, recordings)) return stored.result;
  const recordingIds = recordings.map((one) => one.id);
  const described = describedBy(job, recordings);
  const key = JSON.stringify([id, described, recordingIds]);
  const running = underWay.get(key);
  if (running) return running;
  const weighing = heavy(async () => {
    const series: Series[] = [];
    for (const one of recordingIds) series.push(await loadSeries(store, one));
    const result = await analyseInThread({ job: job.job, system: job.system, series });
    await saveAnalysis(store, id, { coreVersion: CORE_VERSION, recordingIds, described, result });
    return result;
  }).finally(() => underWay.delete(key));
  underWay.set(key, weighing);
  return weighing;
}
