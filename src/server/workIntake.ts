/** What a worker does with a log that has been sent whole: read it in a thread, store it in one transaction, weigh the job anew. */

import { createHash } from 'node:crypto';
import { open } from 'node:fs/promises';
import { sql } from 'kysely';
import { LogAsks } from '@/core/log/answers';
import { spanOf } from '@/core/log/channels';
import { setClock } from '@/core/log/clock';
import { joinSeries } from '@/core/log/join';
import type { RecordingInfo } from '@/core/log/recording';
import { NotALog } from '@/core/log/sniff';
import { clockOf } from '@/core/log/takeIn';
import { isUsualMoment } from '@/core/quantity/span';
import { devicesOf } from '@/core/system/schema';
import { brokenPromise, type Store } from '@/store/database';
import { dropParts, findIntake, intakeBytes, setIntake, type StoredIntake } from '@/store/intakes';
import { findJob, type StoredJob } from '@/store/jobs';
import {
  findRecording,
  insertRecording,
  lockDevice,
  overlapping,
  sameRecording,
  setUnweighed,
} from '@/store/recordings';
import type { ReadAnswer } from '@/workers/tasks';
import { analyseJob } from './analyseJob';
import { readingOf } from './readingOf';
import { clearPath, spoolPath } from './spool';
import { readInThread, TooMuch } from './threads';

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
    const recordingId = intake.recordingId ?? (await readAndStore(store, job, intake));
    if (!recordingId) return;
    await weighWith(store, job, recordingId);
    await setIntake(store, id, 'done');
  } catch (error) {
    if (error instanceof Cancelled) return;
    if (error instanceof LogAsks) await setIntake(store, id, 'asking', { question: error.question });
    else if (error instanceof NotALog || error instanceof TooMuch) await refuse(store, id, error.message);
    else throw error;
  }
}

/** A recording that keeps its job from being weighed is kept, and says so: the job is weighed without it. */
async function weighWith(store: Store, job: StoredJob, recordingId: string): Promise<void> {
  try {
    await analyseJob(store, job);
  } catch (error) {
    // Without its database nothing can be said of the recording.
    await sql`select 1`.execute(store);
    if (!(error instanceof TooMuch)) console.error(error);
    const why = error instanceof TooMuch ? error.message : 'Something in it could not be worked out.';
    await setUnweighed(store, recordingId, `It is kept, but left out when the job is weighed. ${why}`);
    await analyseJob(store, job);
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

/** @returns id of the recording; null when something has to be asked first */
async function readAndStore(store: Store, job: StoredJob, intake: StoredIntake): Promise<string | null> {
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
  const path = await spoolPath();
  try {
    const sha256 = await spool(store, id, path, cancelled.signal);
    if (await sameRecording(store, job.id, device.id, sha256)) throw takenAlready(device.name);
    const read = await readInThread(
      { path, fileName, deviceKind: device.kind, description, timeZone: job.system.timeZone },
      cancelled.signal,
    );
    const clock = clockOf(description, read.plan);
    const span = spanOf({ ...read.series, time: setClock(read.series.time, null, clock) });
    if (!isUsualMoment(span.from) || !isUsualMoment(span.to))
      throw new NotALog(
        'By the clock that it is said to have, this log would lie outside the years 1970 to 2199.',
      );
    if (!(await setIntake(store, id, 'storing'))) throw new Cancelled();
    clearInterval(looking);
    return await store.transaction().execute(async (transaction) => {
      // Of two logs of a device that come at once the second sees the first.
      await lockDevice(transaction, job.id, device.id);
      if (await sameRecording(transaction, job.id, device.id, sha256)) throw takenAlready(device.name);
      const earlier = await overlapping(transaction, job.id, device.id, span);
      if (earlier.length > 0 && !overlap) {
        const overlaps = earlier.map((one) => ({
          id: one.id,
          fileName: one.fileName,
          from: Math.max(one.from, span.from),
          to: Math.min(one.to, span.to),
        }));
        await setIntake(transaction, id, 'asking', { question: { kind: 'overlap', with: overlaps } });
        return null;
      }
      const recordingId = await insertRecording(transaction, {
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
        ...(overlap === 'merge' ? await mergedWith(transaction, earlier, read) : {}),
      });
      // Gone when somebody has cancelled it, or its job was removed.
      if (!(await findIntake(transaction, id))) throw new Cancelled();
      await setIntake(transaction, id, 'analysing', { recordingId });
      await dropParts(transaction, id);
      return recordingId;
    });
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw new Cancelled();
    if (brokenPromise(error) === 'apart')
      throw new NotALog(
        'Joined, it would overlap yet another log of the same device. Set the clocks of these logs first, or take the other one away.',
      );
    throw error;
  } finally {
    clearInterval(looking);
    await clearPath(path);
  }
}

const takenAlready = (device: string): NotALog =>
  new NotALog(`This file was taken in already for ${device}. Nothing was changed.`);

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
      reason: `${joined.differing} of ${joined.shared} moments in this file are in ${one.fileName} too, with other values: those of the new file are kept.`,
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
