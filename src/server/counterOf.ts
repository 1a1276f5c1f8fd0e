/** What the monitor of a job counted by, sample by sample, for the settings bench. */

import { counterLog } from '@/core/count/counterLog';
import { packLog } from '@/core/count/packed';
import { type Currents, summed } from '@/core/count/summed';
import { alignClocks } from '@/core/log/align';
import { timelineOf } from '@/core/log/timeline';
import type { Store } from '@/store/database';
import { findJob } from '@/store/jobs';
import { listRecordings } from '@/store/recordings';
import { loadEach } from '@/store/samples';
import type { Exported } from './exportRecording';
import { gone } from './refusal';

/** @throws Refusal when there is no such job, or none of its logs has the current into the battery */
export async function counterOf(store: Store, jobId: string, currents: Currents): Promise<Exported> {
  const job = await findJob(store, jobId);
  const recordings = job ? (await listRecordings(store, jobId)).filter((one) => one.unweighed === null) : [];
  if (!job || recordings.length === 0) throw gone('job with logs');
  const timeline = alignClocks(timelineOf(await loadEach(store, recordings)), job.system);
  const own = counterLog(job.system, timeline);
  const log = own && summed(job.system, timeline, own, currents);
  if (!log) throw gone('log of that current in this job');
  return { fileName: 'counter.bin', type: 'application/octet-stream', body: packLog(log) };
}
