/** What a worker does with a log that has been sent whole: read it in a thread, store it in one transaction, weigh the job anew. */

import { createHash, randomUUID } from 'node:crypto';
import { open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Overlapped } from '@/core/log/intake';
import { joinSeries } from '@/core/log/join';
import type { RecordingInfo } from '@/core/log/recording';
import { NotALog } from '@/core/log/sniff';
import { setClock } from '@/core/log/clock';
import { clockOf } from '@/core/log/takeIn';
import { spanOf } from '@/core/log/channels';
import { devicesOf } from '@/core/system/schema';
import type { Store } from '@/store/database';
import { dropParts, findIntake, intakeBytes, setIntake, type StoredIntake } from '@/store/intakes';
import { findJob, type StoredJob } from '@/store/jobs';
import { findRecording, insertRecording, overlapping, sameRecording } from '@/store/recordings';
import type { ReadAnswer } from '@/workers/tasks';
import { analyseJob } from './analyseJob';
import { readingOf } from './readingOf';
import { readInThread } from './threads';

/** How often it is looked whether somebody has cancelled, ms. */
const LOOK_EVERY = 500;

/** Takes one intake as far as it goes. Doing it again after it was broken off anywhere does no harm. @throws for what a second try may mend */
export async function workIntake(store: Store, id: string): Promise<void> {
  const intake = await findIntake(store, id);
  if (!intake || ['receiving', 'asking', 'done', 'failed'].includes(intake.state)) return;
  const job = await findJob(store, intake.jobId);
  if (!job) return;
  try {
    // Stored before the worker went: only the weighing is left.
    if (!intake.recordingId && !(await readAndStore(store, job, intake))) return;
    await analyseJob(store, job);
    await setIntake(store, id, 'done');
  } catch (error) {
    if (error instanceof Cancelled) return;
    if (!(error instanceof NotALog)) throw error;
    await refuse(store, id, error.message);
  }
}

/** Ends an intake with a sentence for the user; nothing of it is kept. */
export async function refuse(store: Store, id: string, problem: string): Promise<void> {
  await store.transaction().execute(async (transaction) => {
    await setIntake(transaction, id, 'failed', { problem });
    await dropParts(transaction, id);
  });
}

class Cancelled extends Error {}

/** @returns false when something has to be asked first */
async function readAndStore(store: Store, job: StoredJob, intake: StoredIntake): Promise<boolean> {
  const { id, fileName, description, overlap } = intake;
  const device = devicesOf(job.system).find((one) => one.id === description.device);
  if (!device)
    throw new NotALog('The device that wrote this log was taken off the system meanwhile. Choose another.');
  if (!(await setIntake(store, id, 'reading'))) throw new Cancelled();
  const cancelled = new AbortController();
  const looking = setInterval(() => {
    findIntake(store, id).then(
      (found) => found ?? cancelled.abort(),
      () => undefined,
    );
  }, LOOK_EVERY);
  const path = join(tmpdir(), `pazienza-${randomUUID()}`);
  try {
    const sha256 = await spool(store, id, path, cancelled.signal);
    if (await sameRecording(store, job.id, device.id, sha256))
      throw new NotALog(`This file was taken in already for ${device.name}. Nothing was changed.`);
    const read = await readInThread(
      { path, fileName, deviceKind: device.kind, description, timeZone: job.system.timeZone },
      cancelled.signal,
    );
    const clock = clockOf(description, read.plan);
    const span = spanOf({ ...read.series, time: setClock(read.series.time, null, clock) });
    const earlier = await overlapping(store, job.id, device.id, span);
    if (earlier.length > 0 && !overlap) {
      const question: Overlapped[] = earlier.map((one) => ({
        id: one.id,
        fileName: one.fileName,
        from: Math.max(one.from, span.from),
        to: Math.min(one.to, span.to),
      }));
      await setIntake(store, id, 'asking', { question });
      return false;
    }
    if (!(await setIntake(store, id, 'storing'))) throw new Cancelled();
    const recording = {
      jobId: job.id,
      fileName,
      sha256,
      plan: read.plan,
      rowCount: read.rows,
      problemCount: read.problemCount,
      problems: read.problems,
      series: read.series,
      zoned: read.zoned,
      clock,
      replaces: earlier.map((one) => one.id),
    };
    if (overlap === 'merge') Object.assign(recording, await mergedWith(store, earlier, read));
    clearInterval(looking);
    await store.transaction().execute(async (transaction) => {
      const recordingId = await insertRecording(transaction, recording);
      if (!(await setIntake(transaction, id, 'analysing', { recordingId }))) throw new Cancelled();
      await dropParts(transaction, id);
    });
    return true;
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw new Cancelled();
    throw error;
  } finally {
    clearInterval(looking);
    await rm(path, { force: true });
  }
}

/** The parts of the file as one file on disk. @returns its SHA-256 */
async function spool(store: Store, id: string, path: string, signal: AbortSignal): Promise<string> {
  const hash = createHash('sha256');
  const file = await open(path, 'wx', 0o600);
  try {
    for await (const part of intakeBytes(store, id)) {
      signal.throwIfAborted();
      hash.update(part);
      await file.writeFile(part);
    }
  } finally {
    await file.close();
  }
  return hash.digest('hex');
}

/**
 * The new log joined to those that it overlaps, under the clock that was set for them. Each brings its times by its own zone; a log that was
 * read in the zone of the first, as its device always writes, is set to the zone that was since set for that one.
 */
async function mergedWith(store: Store, earlier: readonly RecordingInfo[], read: ReadAnswer) {
  const [first] = earlier;
  if (!first) return {};
  const asFirst = read.zoned && (await findRecording(store, first.id))?.plan.timeZone === read.plan.timeZone;
  const timeZone = asFirst ? first.clock.timeZone : read.plan.timeZone;
  const time = asFirst
    ? setClock(read.series.time, read.plan.timeZone, { timeZone, offsetSeconds: 0, secondsPerDay: 0 })
    : read.series.time;
  let series = { ...read.series, time };
  let { problemCount } = read;
  const problems = [...read.problems];
  for (const one of earlier) {
    const joined = joinSeries(await readingOf(store, one), series);
    series = joined.series;
    if (joined.differing === 0) continue;
    problemCount++;
    problems.push({
      line: 0,
      reason: `${joined.differing} of ${joined.shared} moments that ${one.fileName} holds too are told otherwise there: the values of the new file were taken.`,
    });
  }
  return {
    series,
    problems,
    problemCount,
    plan: { ...read.plan, timeZone },
    zoned: read.zoned || earlier.some((one) => one.zoned),
    clock: { ...first.clock, timeZone },
  };
}
