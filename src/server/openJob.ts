/** A job as the workspace shows it: description, recordings and the diagnosis. */

import type { Diagnosis } from '@/core/diagnosis/diagnose';
import type { Job, System } from '@/core/system/schema';
import type { Store } from '@/store/database';
import { findJob } from '@/store/jobs';
import type { RecordingInfo } from '@/core/log/recording';
import { listRecordings } from '@/store/recordings';
import { analyseJob } from './analyseJob';

export interface OpenJob {
  id: string;
  job: Job;
  system: System;
  recordings: RecordingInfo[];
  diagnosis: Diagnosis;
}

/** Null when there is no such job. */
export async function openJob(store: Store, id: string): Promise<OpenJob | null> {
  const found = await findJob(store, id);
  if (!found) return null;
  const [recordings, diagnosis] = await Promise.all([listRecordings(store, id), analyseJob(store, found)]);
  return { id, job: found.job, system: found.system, recordings, diagnosis };
}
