/** Takes in a log that is there whole, as those of a bundle are. */

import { PART_BYTES } from '@/core/log/intake';
import type { LogDescription } from '@/core/log/takeIn';
import type { Store } from '@/store/database';
import { findIntake, removeIntake, takePart } from '@/store/intakes';
import type { StoredJob } from '@/store/jobs';
import { beginIntake } from './beginIntake';

/** How long a worker is waited for, ms: after that the log goes on by itself. */
const PATIENCE = 5 * 60_000;

/** Hands a log that is there whole to the workers and waits for them. @returns what went wrong, as a sentence */
export async function takeInWhole(
  store: Store,
  job: StoredJob,
  fileName: string,
  description: LogDescription,
  bytes: Uint8Array,
): Promise<string | null> {
  const intake = await beginIntake(store, job, { fileName, size: bytes.length, modified: 0, description });
  if ('refused' in intake) return intake.refused;
  for (let at = 0; at < bytes.length; at += PART_BYTES)
    await takePart(store, intake.id, at, Buffer.from(bytes.subarray(at, at + PART_BYTES)));
  const until = Date.now() + PATIENCE;
  while (Date.now() < until) {
    const now = await findIntake(store, intake.id);
    if (!now || now.state === 'done') return null;
    if (now.state === 'asking') return 'It overlaps another log of the same device: see the logs of the job.';
    if (now.state === 'failed') {
      await removeIntake(store, intake.id);
      return now.problem;
    }
    await new Promise((done) => setTimeout(done, 100));
  }
  return 'No worker has taken it in yet. It goes on by itself: see the logs of the job.';
}
