/** The clocks of recordings: what the others say one should be, and setting them. */

import { referenceLog } from '@/core/log/align';
import type { Clock } from '@/core/log/clock';
import type { ClockEstimate } from '@/core/log/overlay';
import { cellsSeenBy } from '@/core/system/bankOf';
import { devicesOf } from '@/core/system/schema';
import type { Store } from '@/store/database';
import { findJob } from '@/store/jobs';
import { type ClockOf, findRecording, listRecordings, setRecordingClocks } from '@/store/recordings';
import { loadSeries } from '@/store/samples';
import { heavy } from './heavy';
import { gone, Refusal } from './refusal';
import { estimateInThread } from './threads';

export interface ClockAdvice extends ClockEstimate {
  /** Name of the device whose clock it was held against. */
  against: string;
  /** The clock as it would be set: the one that is set now, with the estimate added. */
  advised: Clock;
}

/** Null when no other log has seen the same. @throws Refusal when there is no such recording */
export async function adviseClock(store: Store, id: string): Promise<ClockAdvice | null> {
  const recording = await findRecording(store, id);
  if (!recording) throw gone('recording');
  const system = (await findJob(store, recording.job_id))?.system;
  const sees = (device: string) => (system ? cellsSeenBy(system, device) : 'bank');
  const others = (await listRecordings(store, recording.job_id)).filter(
    (one) =>
      one.device !== recording.device &&
      sees(one.device) === sees(recording.device) &&
      one.from < recording.to_ms &&
      one.to > recording.from_ms,
  );
  const chosen = referenceLog(others);
  if (!chosen) return null;
  const estimate = await heavy(async () => {
    const [first, second] = await Promise.all([loadSeries(store, chosen.id), loadSeries(store, id)]);
    return estimateInThread(first, second);
  });
  if (!estimate) return null;
  const { clock } = recording;
  return {
    ...estimate,
    against: await nameOf(store, recording.job_id, chosen.device),
    advised: {
      ...clock,
      offsetSeconds: clock.offsetSeconds + Math.round(estimate.offset.ms / 1000),
      secondsPerDay: Number((clock.secondsPerDay + estimate.offset.secondsPerDay).toFixed(1)),
    },
  };
}

async function nameOf(store: Store, jobId: string, device: string): Promise<string> {
  const job = await findJob(store, jobId);
  return (job && devicesOf(job.system).find((one) => one.id === device)?.name) ?? device;
}

const CANNOT = {
  overlap: {
    status: 409,
    error:
      'By these clocks two logs of one device would overlap. Merge them first, or set the clocks of both.',
  },
  'no-time': { status: 400, error: 'By this clock the log would lie outside the years 1970 to 2199.' },
};

/** @returns the clocks that were set before @throws Refusal */
export async function setClocks(store: Store, clocks: readonly ClockOf[]): Promise<{ before: ClockOf[] }> {
  const before = await setRecordingClocks(store, clocks);
  if (before === 'gone') throw gone('recording');
  if (typeof before === 'string') throw new Refusal(CANNOT[before].status, CANNOT[before].error);
  return { before };
}
