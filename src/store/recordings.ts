/** Recordings: what is known of each log beside its samples, and the clock by which these are set. */

import { type Kysely, sql } from 'kysely';
import type { Channel, Series } from '@/core/log/channels';
import { type Clock, setClock } from '@/core/log/clock';
import type { RecordingInfo } from '@/core/log/recording';
import type { ReadPlan, RowProblem } from '@/core/log/readCsv';
import { isUsualMoment } from '@/core/quantity/span';
import { brokenPromise, type Store, within } from './database';
import { isId } from './id';
import { CHUNK_SAMPLES, chunksOf, insertChunks, insertTimesAsRead, loadTimes, timeChunk } from './samples';
import type { Database } from './schema';

export interface NewRecording {
  jobId: string;
  fileName: string;
  sha256: string;
  plan: ReadPlan;
  rowCount: number;
  problemCount: number;
  problems: RowProblem[];
  /** With its times as they were read. */
  series: Series;
  zoned: boolean;
  clock: Clock;
  /** Recordings that are taken away for it. */
  replaces?: readonly string[];
}

/** Recordings that are there, of jobs that are there. */
const standing = (store: Store) =>
  store
    .selectFrom('recordings')
    .innerJoin('jobs', 'jobs.id', 'recordings.job_id')
    .where('jobs.removed_at', 'is', null)
    .where('recordings.removed_at', 'is', null);

/**
 * Whoever decides what shall be with a log of a device waits here until others who decide on the same device are done.
 * @param transaction the one in which the decision is carried out
 */
export async function lockDevice(transaction: Store, jobId: string, device: string): Promise<void> {
  await sql`select pg_advisory_xact_lock(hashtextextended(${`device ${jobId} ${device}`}, 0))`.execute(
    transaction,
  );
}

/** Stores a recording, whole or not at all. @returns its id */
export async function insertRecording(store: Store, recording: NewRecording): Promise<string> {
  const { series: read, clock, zoned, plan, replaces = [] } = recording;
  const count = read.time.length;
  const time = setClock(read.time, zoned ? plan.timeZone : null, clock);
  const series = { ...read, time };
  return within(store, async (transaction) => {
    for (const one of replaces) await setRemoved(transaction, one, true);
    const { id } = await transaction
      .insertInto('recordings')
      .values({
        job_id: recording.jobId,
        device: series.device,
        file_name: recording.fileName,
        sha256: recording.sha256,
        plan: JSON.stringify(recording.plan),
        row_count: recording.rowCount,
        problem_count: recording.problemCount,
        problems: JSON.stringify(recording.problems),
        sample_count: count,
        from_ms: series.time[0]!,
        to_ms: series.time[count - 1]!,
        channels: Object.keys(series.channels),
        clock: JSON.stringify(clock),
        zoned,
        replaces: [...replaces],
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    for (let first = 0, sequence = 0; first < count; first += CHUNK_SAMPLES, sequence++)
      await insertChunks(transaction, id, series, first, Math.min(count, first + CHUNK_SAMPLES), sequence);
    if (time !== read.time) await insertTimesAsRead(transaction, id, read.time);
    return id;
  });
}

export interface ClockOf {
  id: string;
  clock: Clock;
}

/**
 * Sets the clocks of recordings, all or none. Their times as read are kept beside, so that any clock can be set after, and none.
 * @returns the clocks that were set before; 'gone' when a recording is not there; 'overlap' when two logs of one device would overlap;
 *   'no-time' when times would fall out of the years of logs
 */
export async function setRecordingClocks(
  store: Store,
  clocks: readonly ClockOf[],
): Promise<ClockOf[] | 'gone' | 'overlap' | 'no-time'> {
  if (!clocks.every((one) => isId(one.id))) return 'gone';
  try {
    return await store.transaction().execute(async (transaction) => {
      // Two logs of a device may pass each other while their clock is set.
      await sql`set constraints recordings_apart deferred`.execute(transaction);
      const before: ClockOf[] = [];
      for (const one of clocks) before.push({ id: one.id, clock: await setClockOf(transaction, one) });
      return before;
    });
  } catch (error) {
    if (error instanceof CannotSet) return error.why;
    if (brokenPromise(error) === 'apart') return 'overlap';
    throw error;
  }
}

class CannotSet extends Error {
  constructor(readonly why: 'gone' | 'no-time') {
    super(why);
  }
}

/** @returns the clock that was set before @throws CannotSet */
async function setClockOf(transaction: Store, { id, clock }: ClockOf): Promise<Clock> {
  const row = await standing(transaction)
    .select(['clock', 'zoned', 'plan', 'sample_count'])
    .where('recordings.id', '=', id)
    .forUpdate('recordings')
    .executeTakeFirst();
  if (!row) throw new CannotSet('gone');
  const kept = await loadTimes(transaction, id, 'time_read', row.sample_count);
  const read = kept ?? (await loadTimes(transaction, id, 'time', row.sample_count))!;
  const set = setClock(read, row.zoned ? row.plan.timeZone : null, clock);
  if (!isUsualMoment(set[0]!) || !isUsualMoment(set[set.length - 1]!)) throw new CannotSet('no-time');
  if (!kept) await insertTimesAsRead(transaction, id, read);
  for (const [sequence, time] of chunksOf(set).entries()) {
    const { from_ms, to_ms, minimum, maximum, data, summary } = timeChunk(time);
    const chunk = transaction
      .updateTable('recording_chunks')
      .where('recording_id', '=', id)
      .where('sequence', '=', sequence);
    await chunk
      .set({ from_ms, to_ms, minimum, maximum, data, summary })
      .where('channel', '=', 'time')
      .execute();
    await chunk.set({ from_ms, to_ms }).where('channel', 'not in', ['time', 'time_read']).execute();
  }
  await transaction
    .updateTable('recordings')
    .set(({ eb }) => ({
      clock: JSON.stringify(clock),
      clock_version: eb('clock_version', '+', 1),
      from_ms: set[0]!,
      to_ms: set[set.length - 1]!,
      // By another clock it may well be weighed.
      unweighed: null,
    }))
    .where('id', '=', id)
    .execute();
  return row.clock;
}

/** Notes why a recording is left out when its job is weighed, as a sentence. */
export async function setUnweighed(store: Store, id: string, why: string): Promise<void> {
  await store.updateTable('recordings').set({ unweighed: why }).where('id', '=', id).execute();
}

export async function countRecordings(store: Store, jobId: string): Promise<number> {
  const { n } = await store
    .selectFrom('recordings')
    .select(sql<number>`count(*)::integer`.as('n'))
    .where('job_id', '=', jobId)
    .where('removed_at', 'is', null)
    .executeTakeFirstOrThrow();
  return n;
}

export async function listRecordings(store: Store, jobId: string): Promise<RecordingInfo[]> {
  const rows = await store
    .selectFrom('recordings')
    .select([
      'id',
      'device',
      'file_name',
      'row_count',
      'problem_count',
      // A list shows the first few; all are downloaded.
      sql<RowProblem[]>`jsonb_path_query_array(problems, '$[0 to 4]')`.as('problems'),
      'zoned',
      'clock',
      'clock_version',
      // What was cleared away for good cannot be put back.
      sql<string[]>`array(select kept.id from recordings kept where kept.id = any(recordings.replaces))`.as(
        'replaces',
      ),
      'unweighed',
      'sample_count',
      'from_ms',
      'to_ms',
      'channels',
    ])
    .where('job_id', '=', jobId)
    .where('removed_at', 'is', null)
    .orderBy('device')
    .orderBy('from_ms')
    .orderBy('id')
    .execute();
  return rows.map((row) => ({
    id: row.id,
    device: row.device,
    fileName: row.file_name,
    rowCount: row.row_count,
    problemCount: row.problem_count,
    problems: row.problems,
    zoned: row.zoned,
    clock: row.clock,
    clockVersion: row.clock_version,
    replaces: row.replaces,
    unweighed: row.unweighed,
    sampleCount: row.sample_count,
    from: row.from_ms,
    to: row.to_ms,
    channels: row.channels as Channel[],
  }));
}

/** A recording of the same file for the same device, if the job has one already. */
export async function sameRecording(
  store: Store,
  jobId: string,
  device: string,
  sha256: string,
): Promise<string | null> {
  const row = await store
    .selectFrom('recordings')
    .select('id')
    .where('job_id', '=', jobId)
    .where('device', '=', device)
    .where('sha256', '=', sha256)
    .where('removed_at', 'is', null)
    .executeTakeFirst();
  return row?.id ?? null;
}

export async function findRecording(store: Store, id: string) {
  if (!isId(id)) return undefined;
  return standing(store)
    .select([
      'recordings.id',
      'job_id',
      'device',
      'file_name',
      'sample_count',
      'from_ms',
      'to_ms',
      'channels',
      'clock',
      'zoned',
      'plan',
    ])
    .where('recordings.id', '=', id)
    .executeTakeFirst();
}

/** Where else the same device was logged in a span of the job, by the times as they are set. */
export async function overlapping(
  store: Store,
  jobId: string,
  device: string,
  span: { from: number; to: number },
): Promise<RecordingInfo[]> {
  return (await listRecordings(store, jobId)).filter(
    (one) => one.device === device && one.from <= span.to && one.to >= span.from,
  );
}

const setRemoved = (store: Kysely<Database>, id: string, removed: boolean) =>
  store
    .updateTable('recordings')
    .set({ removed_at: removed ? sql<Date>`now()` : null })
    .where('id', '=', id)
    .executeTakeFirst();

/** What came of taking a recording away or putting it back: 'taken' when another log stands in its place. */
export type Moved = 'done' | 'gone' | 'taken';

const ofStandingJob = async (store: Store, id: string): Promise<boolean> =>
  isId(id) &&
  (await store
    .selectFrom('recordings')
    .innerJoin('jobs', 'jobs.id', 'recordings.job_id')
    .select('recordings.id')
    .where('recordings.id', '=', id)
    .where('jobs.removed_at', 'is', null)
    .executeTakeFirst()) !== undefined;

/** Takes a recording away, or puts it back unless the same file, or another log of its time, was taken in meanwhile. */
export async function setRecordingRemoved(store: Store, id: string, removed: boolean): Promise<Moved> {
  if (!(await ofStandingJob(store, id))) return 'gone';
  return unlessTaken(async () => {
    await setRemoved(store, id, removed);
    return 'done';
  });
}

/** Takes a recording away and puts back what it had come in place of, all or nothing. */
export async function undoReplacement(store: Store, id: string): Promise<Moved> {
  if (!(await ofStandingJob(store, id))) return 'gone';
  return unlessTaken(() =>
    store.transaction().execute(async (transaction) => {
      const row = await transaction
        .selectFrom('recordings')
        .select('replaces')
        .where('id', '=', id)
        .where('removed_at', 'is', null)
        .executeTakeFirst();
      if (!row) return 'gone';
      await setRemoved(transaction, id, true);
      for (const one of row.replaces)
        // Cleared away for good: then the one in its place stays.
        if ((await setRemoved(transaction, one, false)).numUpdatedRows === 0n) throw new Lost();
      return 'done';
    }),
  );
}

class Lost extends Error {}

async function unlessTaken(work: () => Promise<Moved>): Promise<Moved> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Lost) return 'gone';
    if (brokenPromise(error)) return 'taken';
    throw error;
  }
}

/** Every problem that was kept of a recording's rows; null when there is no such recording. */
export async function recordingProblems(
  store: Store,
  id: string,
): Promise<{ fileName: string; problemCount: number; problems: RowProblem[] } | null> {
  if (!isId(id)) return null;
  const row = await standing(store)
    .select(['file_name', 'problem_count', 'problems'])
    .where('recordings.id', '=', id)
    .executeTakeFirst();
  return row ? { fileName: row.file_name, problemCount: row.problem_count, problems: row.problems } : null;
}
