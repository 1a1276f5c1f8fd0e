/** Recordings: the samples of a log as chunks of columns, with what a strip needs to draw them from afar. */

import { type Kysely, sql } from 'kysely';
import type { Channel, Series } from '@/core/log/channels';
import { type Clock, setClock } from '@/core/log/clock';
import type { RecordingInfo } from '@/core/log/recording';
import type { ReadPlan, RowProblem } from '@/core/log/readCsv';
import { type Extent, SUMMARY_SIZE, summarise } from '@/core/log/pyramid';
import type { Store } from './database';
import { isId } from './jobs';
import type { Database } from './schema';

/** Samples in a chunk; a multiple of the summary's. */
export const CHUNK_SAMPLES = 8192;

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

/** The times as they were read, beside those that are set. */
async function insertTimesAsRead(store: Kysely<Database>, recordingId: string, read: Float64Array) {
  for (const [sequence, time] of chunksOf(read).entries())
    await store
      .insertInto('recording_chunks')
      .values({ recording_id: recordingId, sequence, ...timeChunk(time), channel: 'time_read' })
      .execute();
}

function chunksOf(time: Float64Array): Float64Array[] {
  const chunks: Float64Array[] = [];
  for (let first = 0; first < time.length; first += CHUNK_SAMPLES)
    chunks.push(time.subarray(first, first + CHUNK_SAMPLES));
  return chunks;
}

/** A chunk of times as a row. */
function timeChunk(time: Float64Array) {
  const from = time[0]!;
  const to = time[time.length - 1]!;
  const starts = Float64Array.from(
    { length: Math.ceil(time.length / SUMMARY_SIZE) },
    (_, i) => time[i * SUMMARY_SIZE]!,
  );
  return {
    channel: 'time',
    sample_count: time.length,
    known_count: time.length,
    from_ms: from,
    to_ms: to,
    minimum: from,
    maximum: to,
    total: 0,
    data: bytesOf(time),
    summary: bytesOf(starts),
  };
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

/** Null when the recording has none under that name. */
async function loadTimes(
  store: Kysely<Database>,
  id: string,
  channel: 'time' | 'time_read',
  count: number,
): Promise<Float64Array | null> {
  const rows = await store
    .selectFrom('recording_chunks')
    .select(['data', 'sequence'])
    .where('recording_id', '=', id)
    .where('channel', '=', channel)
    .execute();
  if (rows.length === 0) return null;
  const times = new Float64Array(count);
  for (const { data, sequence } of rows) times.set(doubles(data), sequence * CHUNK_SAMPLES);
  return times;
}

async function insertChunks(
  transaction: Kysely<Database>,
  recordingId: string,
  series: Series,
  first: number,
  end: number,
  sequence: number,
): Promise<void> {
  const time = series.time.subarray(first, end);
  const shared = {
    recording_id: recordingId,
    sequence,
    sample_count: end - first,
    from_ms: time[0]!,
    to_ms: time[time.length - 1]!,
  };
  const rows = [
    { ...shared, ...timeChunk(time) },
    ...(Object.entries(series.channels) as [string, Float32Array][]).map(([channel, values]) => {
      const part = values.subarray(first, end);
      const { min, max } = summarise(part);
      const both = new Float32Array(min.length * 2);
      both.set(min);
      both.set(max, min.length);
      return { ...shared, channel, ...statistics(part), data: bytesOf(part), summary: bytesOf(both) };
    }),
  ];
  await transaction.insertInto('recording_chunks').values(rows).execute();
}

function statistics(values: Float32Array) {
  let known = 0;
  let total = 0;
  let minimum = Infinity;
  let maximum = -Infinity;
  for (const value of values) {
    if (value !== value) continue;
    known++;
    total += value;
    if (value < minimum) minimum = value;
    if (value > maximum) maximum = value;
  }
  return {
    known_count: known,
    total,
    minimum: known > 0 ? minimum : null,
    maximum: known > 0 ? maximum : null,
  };
}

const bytesOf = (values: Float32Array | Float64Array): Buffer =>
  Buffer.from(values.buffer, values.byteOffset, values.byteLength);

/** Copies: a Buffer from the driver need not be aligned for a typed array. */
const floats = (bytes: Buffer): Float32Array => new Float32Array(new Uint8Array(bytes).buffer);
const doubles = (bytes: Buffer): Float64Array => new Float64Array(new Uint8Array(bytes).buffer);

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

/**
 * The whole series of a recording, by its clock.
 * @param asRead with the times as they were read instead @throws when it is not there
 */
export async function loadSeries(store: Store, id: string, asRead = false): Promise<Series> {
  const { device, sample_count: count } = await store
    .selectFrom('recordings')
    .select(['device', 'sample_count'])
    .where('id', '=', id)
    .executeTakeFirstOrThrow();
  const read = asRead ? await loadTimes(store, id, 'time_read', count) : null;
  const series: Series = { device, time: read ?? new Float64Array(count), channels: {} };
  // A few chunks at a time: a long recording never stands in memory twice.
  for (let sequence = 0; sequence * CHUNK_SAMPLES < count; sequence += CHUNKS_AT_ONCE) {
    const chunks = await store
      .selectFrom('recording_chunks')
      .select(['channel', 'data', 'sequence'])
      .where('recording_id', '=', id)
      .where('channel', '!=', 'time_read')
      .where('sequence', '>=', sequence)
      .where('sequence', '<', sequence + CHUNKS_AT_ONCE)
      .orderBy('channel')
      .execute();
    for (const { channel, data, sequence: at } of chunks) {
      if (channel !== 'time')
        (series.channels[channel as Channel] ??= new Float32Array(count)).set(
          floats(data),
          at * CHUNK_SAMPLES,
        );
      else if (!read) series.time.set(doubles(data), at * CHUNK_SAMPLES);
    }
  }
  return series;
}

const CHUNKS_AT_ONCE = 32;

export interface Window {
  time: Float64Array;
  channels: Record<string, Extent>;
}

/** How closely a window is looked at: sample by sample, by the summaries of every 64, or by one extent a chunk. */
export type Detail = 'samples' | 'summaries' | 'chunks';

/**
 * Samples of a span (with the chunk that reaches into it on each side), or what stands for them. Times are those of the samples, or of the
 * first sample that each extent covers.
 */
export async function loadWindow(
  store: Store,
  id: string,
  channels: readonly string[],
  from: number,
  to: number,
  detail: Detail,
): Promise<Window> {
  const within = store
    .selectFrom('recording_chunks')
    .where('recording_id', '=', id)
    .where('from_ms', '<', to)
    .where('to_ms', '>=', from)
    .orderBy('sequence');
  if (detail === 'chunks') {
    const rows = await within
      .select(['channel', 'from_ms', 'minimum', 'maximum'])
      .where('channel', 'in', ['time', ...channels])
      .execute();
    const of = (channel: string) => rows.filter((row) => row.channel === channel);
    const extent = (channel: string): Extent => ({
      min: Float32Array.from(of(channel), (row) => row.minimum ?? NaN),
      max: Float32Array.from(of(channel), (row) => row.maximum ?? NaN),
    });
    return {
      time: Float64Array.from(of('time'), (row) => row.from_ms),
      channels: Object.fromEntries(channels.map((channel) => [channel, extent(channel)])),
    };
  }
  const rows = await within
    .select(['channel', detail === 'summaries' ? 'summary as bytes' : 'data as bytes'])
    .where('channel', 'in', ['time', ...channels])
    .execute();
  const parts = (channel: string) => rows.filter((row) => row.channel === channel).map((row) => row.bytes);
  const time = joinDoubles(parts('time').map(doubles));
  const extents = channels.map((channel) => {
    const values = parts(channel).map(floats);
    if (detail === 'samples') {
      const all = joinFloats(values);
      return [channel, { min: all, max: all }] as const;
    }
    const half = (part: Float32Array, which: 0 | 1) =>
      part.subarray((which * part.length) / 2, ((which + 1) * part.length) / 2);
    return [
      channel,
      {
        min: joinFloats(values.map((part) => half(part, 0))),
        max: joinFloats(values.map((part) => half(part, 1))),
      },
    ] as const;
  });
  return { time, channels: Object.fromEntries(extents) };
}

function joinFloats(parts: Float32Array[]): Float32Array {
  const joined = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0));
  parts.reduce((at, part) => (joined.set(part, at), at + part.length), 0);
  return joined;
}

function joinDoubles(parts: Float64Array[]): Float64Array {
  const joined = new Float64Array(parts.reduce((sum, part) => sum + part.length, 0));
  parts.reduce((at, part) => (joined.set(part, at), at + part.length), 0);
  return joined;
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
