/** The tools on the strips that read samples: the caliper, and the next time of something. */

import { type FindRule, findSpan, findTime } from '@/core/log/find';
import type { Series } from '@/core/log/channels';
import { measure, type Measured } from '@/core/log/measure';
import { timelineOf } from '@/core/log/timeline';
import { HOUR, MINUTE, type Span } from '@/core/quantity/span';
import { setApart } from '@/core/parallel/setApart';
import type { Store } from '@/store/database';
import { findJob } from '@/store/jobs';
import { findRecording, listRecordings } from '@/store/recordings';
import { loadSeries, loadWindow } from '@/store/samples';
import { heavy } from './heavy';
import { gone, Refusal } from './refusal';

/** Samples beside the span: its ends lie between two of them. */
const BESIDE = HOUR;

/** @throws Refusal when there is no such job, or it has no logs */
export async function measureSpan(store: Store, jobId: string, span: Span): Promise<Measured> {
  const job = await findJob(store, jobId);
  const recordings = job ? await listRecordings(store, jobId) : [];
  if (!job || recordings.length === 0) throw gone('job with logs');
  return heavy(async () => {
    const series: Series[] = [];
    for (const { id, device, channels } of recordings) {
      const window = await loadWindow(store, id, channels, span.from - BESIDE, span.to + BESIDE, 'samples');
      if (window.time.length > 0) series.push(asSeries(device, window));
    }
    if (series.length === 0) throw new Refusal(404, 'There are no samples between these two moments.');
    return measure(setApart(job.system, timelineOf(series)).timeline, span);
  });
}

const asSeries = (device: string, { time, channels }: Awaited<ReturnType<typeof loadWindow>>): Series => ({
  device,
  time,
  channels: Object.fromEntries(Object.entries(channels).map(([name, one]) => [name, one.min])),
});

export interface FindQuery {
  recording: string;
  channel: string;
  rule: FindRule | 'span';
  value: number;
  /** Of a span: the level at which it ends. */
  to?: number | undefined;
  minutes: number;
  from: number;
  way: 'next' | 'previous';
}

/** @returns the moment, or both ends; null where it never does @throws Refusal */
export async function findInLog(
  store: Store,
  jobId: string,
  { recording: id, channel, rule, value, to, minutes, from, way }: FindQuery,
): Promise<{ found: Span | null }> {
  const recording = await findRecording(store, id);
  if (!recording || !(await listRecordings(store, jobId)).some((one) => one.id === id))
    throw gone('recording');
  const series = await heavy(() => loadSeries(store, id));
  const values = series.channels[channel as keyof Series['channels']];
  if (!values) throw new Refusal(400, 'This log has no such channel.');
  if (rule === 'span') return { found: findSpan(series.time, values, [value, to ?? value], from) };
  const at = findTime(series.time, values, { rule, value, holdMs: minutes * MINUTE }, from, way);
  return { found: at === null ? null : { from: at, to: at } };
}
