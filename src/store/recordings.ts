/** Recordings: the samples of a log as chunks of columns, with what a strip needs to draw them from afar. */

import { sql, type Transaction } from 'kysely';
import type { Channel, Series } from '@/core/log/channels';
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
  series: Series;
}

/** Stores a recording, whole or not at all. @returns its id */
export async function insertRecording(store: Store, recording: NewRecording): Promise<string> {
  const { series } = recording;
  const count = series.time.length;
  return store.transaction().execute(async (transaction) => {
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
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    for (let first = 0, sequence = 0; first < count; first += CHUNK_SAMPLES, sequence++)
      await insertChunks(transaction, id, series, first, Math.min(count, first + CHUNK_SAMPLES), sequence);
    return id;
  });
}

async function insertChunks(
  transaction: Transaction<Database>,
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
  const starts = Float64Array.from(
    { length: Math.ceil(time.length / SUMMARY_SIZE) },
    (_, i) => time[i * SUMMARY_SIZE]!,
  );
  const rows = [
    {
      ...shared,
      channel: 'time',
      known_count: time.length,
      minimum: time[0]!,
      maximum: time[time.length - 1]!,
      total: 0,
      data: bytesOf(time),
      summary: bytesOf(starts),
    },
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
    .selectAll()
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

/** The whole series of a recording, as it was read. @throws when it is not there */
export async function loadSeries(store: Store, id: string): Promise<Series> {
  const { device, sample_count: count } = await store
    .selectFrom('recordings')
    .select(['device', 'sample_count'])
    .where('id', '=', id)
    .executeTakeFirstOrThrow();
  const chunks = await store
    .selectFrom('recording_chunks')
    .select(['channel', 'data', 'sequence'])
    .where('recording_id', '=', id)
    .orderBy('channel')
    .orderBy('sequence')
    .execute();
  const series: Series = { device, time: new Float64Array(count), channels: {} };
  for (const { channel, data, sequence } of chunks) {
    if (channel === 'time') series.time.set(doubles(data), sequence * CHUNK_SAMPLES);
    else
      (series.channels[channel as Channel] ??= new Float32Array(count)).set(
        floats(data),
        sequence * CHUNK_SAMPLES,
      );
  }
  return series;
}

export interface Window {
  time: Float64Array;
  channels: Record<string, Extent>;
}

/**
 * Samples of a span (with the chunk that reaches into it on each side), or their summaries when `fromAfar`.
 * Times are those of the samples, or of the first sample of each summary bucket.
 */
export async function loadWindow(
  store: Store,
  id: string,
  channels: readonly string[],
  from: number,
  to: number,
  fromAfar: boolean,
): Promise<Window> {
  const rows = await store
    .selectFrom('recording_chunks')
    .select(['channel', fromAfar ? 'summary as bytes' : 'data as bytes'])
    .where('recording_id', '=', id)
    .where('channel', 'in', ['time', ...channels])
    .where('from_ms', '<', to)
    .where('to_ms', '>=', from)
    .orderBy('sequence')
    .execute();
  const parts = (channel: string) => rows.filter((row) => row.channel === channel).map((row) => row.bytes);
  const time = joinDoubles(parts('time').map(doubles));
  const extents = channels.map((channel) => {
    const values = parts(channel).map(floats);
    if (!fromAfar) {
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
    .select(['id', 'job_id', 'device', 'file_name', 'sample_count', 'from_ms', 'to_ms', 'channels'])
    .where('id', '=', id)
    .executeTakeFirst();
}

/** Takes a recording away, or puts it back. @returns false when there is none, or the same file was taken in again meanwhile */
export async function setRecordingRemoved(store: Store, id: string, removed: boolean): Promise<boolean> {
  if (!isId(id)) return false;
  try {
    const { numUpdatedRows } = await store
      .updateTable('recordings')
      .set({ removed_at: removed ? sql<Date>`now()` : null })
      .where('id', '=', id)
      .executeTakeFirst();
    return numUpdatedRows > 0n;
  } catch (error) {
    // The unique index: another recording of this file stands in its place.
    if ((error as { code?: string }).code === '23505') return false;
    throw error;
  }
}
