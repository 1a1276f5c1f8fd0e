/** Saves a small change of a job. What somebody else saved meanwhile is kept: the change is made again on what stands there now. */

import type { Job } from '@/core/system/schema';

const UNREACHED = 'The server could not be reached. Nothing was changed; try again.';
const NOT_STORED = 'The change could not be stored. Try again.';
const BUSY = 'Somebody is changing this job at the same time. Try again.';

/** Null when it is saved; else what went wrong, as a sentence. */
export async function changeJob(
  id: string,
  start: { version: number; job: Job },
  change: (job: Job) => Job,
): Promise<string | null> {
  let { version, job } = start;
  try {
    for (let attempt = 0; attempt < 3; attempt++) {
      const response = await fetch(`/api/jobs/${id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ base: version, value: change(job) }),
      });
      if (response.ok) return null;
      const answer = (await response.json()) as { version?: number; value?: Job; error?: string };
      if (response.status !== 409 || !answer.value || answer.version === undefined)
        return answer.error ?? NOT_STORED;
      ({ version, value: job } = { version: answer.version, value: answer.value });
    }
    return BUSY;
  } catch {
    return UNREACHED;
  }
}
