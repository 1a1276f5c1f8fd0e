/**
 * The diagnosis of a job: the stored one while it is current, else a new one. The logs are read again only when they, their clocks,
 * the system or the core have changed; whatever else changes is weighed from what was seen.
 */

import { createHash } from 'node:crypto';

import { MOST_CHANGES } from '@/core/bundle/schema';
import { conclude, middleOf } from '@/core/diagnosis/diagnose';
import type { Observed } from '@/core/diagnosis/observe';
import type { Diagnosis } from '@/core/diagnosis/result';
import {
  findAnalyses,
  findObserved,
  saveAnalysis,
  saveObserved,
  type StoredAnalysis,
} from '@/store/analyses';
import { asItWas } from '@/core/system/asItWas';
import { recordsOfJob } from '@/core/records/records';
import type { System } from '@/core/system/schema';
import { listChanges } from '@/store/changes';
import type { Store } from '@/store/database';
import type { RecordingInfo } from '@/core/log/recording';
import type { StoredJob } from '@/store/jobs';
import { listRecordings } from '@/store/recordings';
import { listRecords } from '@/store/records';
import { loadEach } from '@/store/samples';
import { coreHash } from './coreHash';
import { heavy } from './heavy';
import { observeInThread } from './threads';

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
  if (!analysis || analysis.core !== coreHash()) return false;
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
  const weighing = (async () => {
    const { was, observed } = await seenOfJob(store, job, recordings);
    const result = conclude(job.job, was.system, observed, {
      today: job.system,
      since: was.since,
      records: recordsOfJob(await listRecords(store, job.systemId), id),
    });
    await saveAnalysis(store, id, { core: coreHash(), recordingIds, described, result });
    return result;
  })().finally(() => underWay.delete(key));
  underWay.set(key, weighing);
  return weighing;
}

/** What the logs show, and the system as it was set while they ran. @param recordings those that are weighed */
export async function seenOfJob(store: Store, job: StoredJob, recordings: readonly RecordingInfo[]) {
  const changes = await listChanges(store, job.systemId, { limit: MOST_CHANGES });
  const spans = recordings.map(({ from, to }) => ({ from, to }));
  const was = asItWas(job.system, changes, middleOf(spans));
  return { was, observed: await observeJob(store, job.id, was.system, recordings) };
}

/** What the logs show: as it was seen before, while nothing that it depends on has changed. */
async function observeJob(
  store: Store,
  id: string,
  system: System,
  recordings: readonly RecordingInfo[],
): Promise<Observed> {
  const clocks = recordings.map((one) => `${one.id} ${one.clockVersion}`).sort();
  const madeFrom = createHash('sha256')
    .update(JSON.stringify([coreHash(), system, clocks]))
    .digest('hex');
  const seen = await findObserved(store, id, madeFrom);
  if (seen) return seen;
  return heavy(async () => {
    const observed = await observeInThread(system, await loadEach(store, recordings));
    await saveObserved(store, id, madeFrom, observed);
    return observed;
  });
}
