/** Recordings: what is known of each log beside its samples, and the clock by which these are set. */

import { type Kysely, sql } from 'kysely';
import type { Channel, Series } from '@/core/log/channels';
import { type Clock, setClock } from '@/core/log/clock';
import type { RecordingInfo } from '@/core/log/recording';
import type { ReadPlan, RowProblem } from '@/core/log/readCsv';
import type { Store } from './database';
import { isId } from './jobs';
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

/** In the transaction that is going on, or in one of its own. */
const within = <T>(store: Store, work: (transaction: Kysely<Database>) => Promise<T>): Promise<T> =>
  store.isTransaction ? work(store) : store.transaction().execute(work);

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

/**
 * Sets the clock of a recording. Its times as read are kept beside, so that any clock can be set after, and none.
 * @returns the clock that was set before; null when there is no such recording
 */
export async function setRecordingClock(store: Store, id: string, clock: Clock): Promise<Clock | null> {
  if (!isId(id)) return null;
  return store.transaction().execute(async (transaction) => {
    const row = await transaction
      .selectFrom('recordings')
      .select(['clock', 'zoned', 'plan', 'sample_count'])
      .where('id', '=', id)
      .forUpdate()
      .executeTakeFirst();
    if (!row) return null;
    const kept = await loadTimes(transaction, id, 'time_read', row.sample_count);
    const read = kept ?? (await loadTimes(transaction, id, 'time', row.sample_count))!;
    if (!kept) await insertTimesAsRead(transaction, id, read);
    const set = setClock(read, row.zoned ? row.plan.timeZone : null, clock);
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
      }))
      .where('id', '=', id)
      .execute();
    return row.clock;
  });
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
      'replaces',
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
  return store
    .selectFrom('recordings')
    .select([
      'id',
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
      'removed_at',
    ])
    .where('id', '=', id)
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

/** Takes a recording away, or puts it back. @returns false when there is none, or the same file was taken in again meanwhile */
export async function setRecordingRemoved(store: Store, id: string, removed: boolean): Promise<boolean> {
  if (!isId(id)) return false;
  return unlessTakenAgain(async () => (await setRemoved(store, id, removed)).numUpdatedRows > 0n);
}

/** Takes a recording away and puts back what it had come in place of. @returns false when there is none, or it cannot be */
export async function undoReplacement(store: Store, id: string): Promise<boolean> {
  if (!isId(id)) return false;
  return unlessTakenAgain(() =>
    store.transaction().execute(async (transaction) => {
      const row = await transaction
        .selectFrom('recordings')
        .select('replaces')
        .where('id', '=', id)
        .where('removed_at', 'is', null)
        .executeTakeFirst();
      if (!row) return false;
      await setRemoved(transaction, id, true);
      for (const one of row.replaces) await setRemoved(transaction, one, false);
      return true;
    }),
  );
}

async function unlessTakenAgain(work: () => Promise<boolean>): Promise<boolean> {
  try {
    return await work();
  } catch (error) {
    // The unique index: another recording of this file stands in its place.
    if ((error as { code?: string }).code === '23505') return false;
    throw error;
  }
}

/** Every problem that was kept of a recording's rows; null when there is no such recording. */
export async function recordingProblems(
  store: Store,
  id: string,
): Promise<{ fileName: string; problemCount: number; problems: RowProblem[] } | null> {
  if (!isId(id)) return null;
  const row = await store
    .selectFrom('recordings')
    .select(['file_name', 'problem_count', 'problems'])
    .where('id', '=', id)
    .executeTakeFirst();
  return row ? { fileName: row.file_name, problemCount: row.problem_count, problems: row.problems } : null;
}
