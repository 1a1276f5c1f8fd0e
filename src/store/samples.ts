/** The samples of recordings: chunks of columns, with what a strip needs to draw them from afar. */

import type { Kysely } from 'kysely';
import type { Channel, Series } from '@/core/log/channels';
import { type Extent, SUMMARY_SIZE, summarise } from '@/core/log/pyramid';
import type { Store } from './database';
import type { Database } from './schema';

/** Samples in a chunk; a multiple of the summary's. */
export const CHUNK_SAMPLES = 8192;

/** The times as they were read, beside those that are set. */
export async function insertTimesAsRead(store: Kysely<Database>, recordingId: string, read: Float64Array) {
  for (const [sequence, time] of chunksOf(read).entries())
    await store
      .insertInto('recording_chunks')
      .values({ recording_id: recordingId, sequence, ...timeChunk(time), channel: 'time_read' })
      .execute();
}

export function chunksOf(time: Float64Array): Float64Array[] {
  const chunks: Float64Array[] = [];
  for (let first = 0; first < time.length; first += CHUNK_SAMPLES)
    chunks.push(time.subarray(first, first + CHUNK_SAMPLES));
  return chunks;
}

/** A chunk of times as a row. */
export function timeChunk(time: Float64Array) {
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

/** Null when the recording has none under that name. */
export async function loadTimes(
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

export async function insertChunks(
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

/** The series of some recordings, one after the other: they are large. @throws when one is not there */
export async function loadEach(store: Store, recordings: readonly { id: string }[]): Promise<Series[]> {
  const series: Series[] = [];
  for (const { id } of recordings) series.push(await loadSeries(store, id));
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
 * How closely a recording is looked at for buckets of a length: what stands for many samples must be shorter than a bucket, or buckets
 * between would stay empty.
 */
export function detailFor(
  { sampleCount, from, to }: { sampleCount: number; from: number; to: number },
  bucketMs: number,
): Detail {
  const perBucket = (sampleCount / Math.max(1, to - from)) * bucketMs;
  return perBucket >= 2 * CHUNK_SAMPLES ? 'chunks' : perBucket >= 2 * SUMMARY_SIZE ? 'summaries' : 'samples';
}

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
