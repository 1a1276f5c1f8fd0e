/** A job as the workspace shows it: description, recordings and, where a step needs it, the diagnosis. */

import type { Diagnosis } from '@/core/diagnosis/diagnose';
import type { Intake } from '@/core/log/intake';
import type { RecordingInfo } from '@/core/log/recording';
import type { Job, System } from '@/core/system/schema';
import { type Told, toldOf } from '@/core/diagnosis/summary';
import { findAnalyses } from '@/store/analyses';
import { listChanges, type StoredChange } from '@/store/changes';
import type { Store } from '@/store/database';
import { listIntakes } from '@/store/intakes';
import { findJob } from '@/store/jobs';
import { listPhotos, type PhotoInfo } from '@/store/photos';
import { listRecordings } from '@/store/recordings';
import { analyseJob, isCurrent } from './analyseJob';

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
  /** Settings changed on the system's devices, the latest first. */
  changes: StoredChange[];
  /** What the logs have come to; null when they were not weighed since something changed. */
  told: Told | null;
}

export interface OpenJob extends DescribedJob {
  diagnosis: Diagnosis;
}

/** What is known of a job without looking into its logs; null when there is no such job. */
export async function describeJob(store: Store, id: string): Promise<DescribedJob | null> {
  const found = await findJob(store, id);
  if (!found) return null;
  const [recordings, intakes, photos, changes, analyses] = await Promise.all([
    listRecordings(store, id),
    listIntakes(store, id),
    listPhotos(store, id),
    listChanges(store, found.systemId),
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
    told: analysis && current ? toldOf(analysis.result) : null,
  };
}

/** Null when there is no such job. */
export async function openJob(store: Store, id: string): Promise<OpenJob | null> {
  const found = await findJob(store, id);
  if (!found) return null;
  const [described, diagnosis] = await Promise.all([describeJob(store, id), analyseJob(store, found)]);
  return described && { ...described, diagnosis };
}
