/** The clock of a recording: what the others say it should be, and setting it. */

import { z } from 'zod';
import { isTimeZone } from '@/core/quantity/timeZone';
import { referenceLog } from '@/core/log/align';
import type { Clock } from '@/core/log/clock';
import type { ClockEstimate } from '@/core/log/overlay';
import { devicesOf } from '@/core/system/schema';
import type { Store } from '@/store/database';
import { findJob, isId } from '@/store/jobs';
import { findRecording, listRecordings } from '@/store/recordings';
import { loadSeries } from '@/store/samples';
import { estimateInThread } from './threads';

export const clockSchema = z.object({
  timeZone: z
    .string()
    .refine(isTimeZone, { error: 'This is no time zone: use a name such as "Europe/Rome".' }),
  offsetSeconds: z
    .number()
    .min(-40 * 365 * 86_400)
    .max(40 * 365 * 86_400),
  secondsPerDay: z.number().gt(-3600).lt(3600),
}) satisfies z.ZodType<Clock>;

export interface ClockAdvice extends ClockEstimate {
  /** Name of the device whose clock it was held against. */
  against: string;
  /** The clock as it would be set: the one that is set now, with the estimate added. */
  advised: Clock;
}

/** 'alone' when no other log has seen the same; null when there is no such recording. */
export async function adviseClock(store: Store, id: string): Promise<ClockAdvice | 'alone' | null> {
  const recording = isId(id) ? await findRecording(store, id) : undefined;
  if (!recording) return null;
  const others = (await listRecordings(store, recording.job_id)).filter(
    (one) => one.device !== recording.device && one.from < recording.to_ms && one.to > recording.from_ms,
  );
  const chosen = referenceLog(others);
  if (!chosen) return 'alone';
  const [first, second] = await Promise.all([loadSeries(store, chosen.id), loadSeries(store, id)]);
  const estimate = await estimateInThread(first, second);
  if (!estimate) return 'alone';
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
