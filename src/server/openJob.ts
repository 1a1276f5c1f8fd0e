/** A job as the workspace shows it: description, recordings and, where a step needs it, the diagnosis. */

import { diagnose } from '@/core/diagnosis/diagnose';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { Intake } from '@/core/log/intake';
import type { RecordingInfo } from '@/core/log/recording';
import type { Job, System } from '@/core/system/schema';
import { type JobDigest, digestOf } from '@/core/diagnosis/summary';
import { findAnalyses } from '@/store/analyses';
import { countChanges, listChanges, type StoredChange } from '@/store/changes';
import type { Store } from '@/store/database';
import { listIntakes } from '@/store/intakes';
import { findJob, type StoredJob } from '@/store/jobs';
import { listPhotos, type PhotoInfo } from '@/store/photos';
import { listRecordings } from '@/store/recordings';
import { analyseJob, isCurrent } from './analyseJob';
import { TooMuch } from './threads';

export interface DescribedJob {
  id: string;
  job: Job;
  jobVersion: number;
  systemId: string;
  system: System;
  systemVersion: number;
  recordings: RecordingInfo[];
  /** Logs on their way in, and those that could not be taken in. */
  intakes: Intake[];
  photos: PhotoInfo[];
  /** Settings changed on the system's devices, the latest first: the first page of them, and how many there are. */
  changes: StoredChange[];
  changeCount: number;
  /** What the logs have come to; null when they were not weighed since something changed. */
  digest: JobDigest | null;
}

export interface OpenJob extends DescribedJob {
  diagnosis: Diagnosis;
  /** Why the logs were not weighed: then the diagnosis leans on the description alone. */
  notWeighed: string | null;
}

/** What is known of a job without looking into its logs; null when there is no such job. */
export async function describeJob(store: Store, id: string): Promise<DescribedJob | null> {
  const found = await findJob(store, id);
  if (!found) return null;
  const [recordings, intakes, photos, changes, changeCount, analyses] = await Promise.all([
    listRecordings(store, id),
    listIntakes(store, id),
    listPhotos(store, id),
    listChanges(store, found.systemId),
    countChanges(store, found.systemId),
    findAnalyses(store, [id]),
  ]);
  const analysis = analyses.get(id);
  const current = isCurrent(analysis, found, recordings);
  return {
    ...found,
    recordings,
    intakes,
    photos,
    changes,
    changeCount,
    digest: analysis && current ? digestOf(analysis.result) : null,
  };
}

/** Null when there is no such job. */
export async function openJob(store: Store, id: string): Promise<OpenJob | null> {
  const found = await findJob(store, id);
  if (!found) return null;
  const [described, weighed] = await Promise.all([describeJob(store, id), weigh(store, found)]);
  return described && { ...described, ...weighed };
}

/** What cannot be weighed must not keep the job from being opened. */
async function weigh(
  store: Store,
  found: StoredJob,
): Promise<{ diagnosis: Diagnosis; notWeighed: string | null }> {
  try {
    return { diagnosis: await analyseJob(store, found), notWeighed: null };
  } catch (error) {
    if (!(error instanceof TooMuch)) console.error(error);
    const { job, system } = found;
    const why = error instanceof TooMuch ? error.message : 'Something in them could not be worked out.';
    return { diagnosis: diagnose({ job, system, series: [] }), notWeighed: why };
  }
}
