/** A job's logs on one even grid, with the battery's current put right, for the replay of charging. */

import { alignClocks } from '@/core/log/align';
import { timelineOf } from '@/core/log/timeline';
import { setApart } from '@/core/parallel/setApart';
import { knownSystem } from '@/core/system/known';
import { minutesOf, packMinutes } from '@/core/whatif/minutes';
import type { Store } from '@/store/database';
import { findJob } from '@/store/jobs';
import { listRecordings } from '@/store/recordings';
import { loadEach } from '@/store/samples';
import { seenOfJob } from './analyseJob';
import type { Exported } from './exportRecording';
import { heavy } from './heavy';
import { gone } from './refusal';

/** @throws Refusal when there is no such job, its battery is not known, or no log has the battery's voltage and current */
export async function minutesOfJob(store: Store, jobId: string): Promise<Exported> {
  const job = await findJob(store, jobId);
  const recordings = job ? (await listRecordings(store, jobId)).filter((one) => one.unweighed === null) : [];
  if (!job || recordings.length === 0) throw gone('job with logs');
  const { was, observed } = await seenOfJob(store, job, recordings);
  return heavy(async () => {
    const aligned = alignClocks(timelineOf(await loadEach(store, recordings)), was.system);
    const { timeline } = setApart(was.system, aligned);
    const known = knownSystem(was.system);
    const minutes = known ? minutesOf(known, timeline, observed.counting?.wrong ?? null) : null;
    if (!minutes) throw gone('log of the battery’s voltage and current in this job');
    return { fileName: 'minutes.bin', type: 'application/octet-stream', body: packMinutes(minutes) };
  });
}
