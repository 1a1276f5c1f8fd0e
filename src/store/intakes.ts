/** Logs on their way in: their parts as they arrive, and how far each has come. */

import { sql, type Kysely } from 'kysely';
import type { Intake, IntakeState, OverlapAnswer, Overlapped } from '@/core/log/intake';
import type { LogDescription } from '@/core/log/takeIn';
import type { Store } from './database';
import { isId } from './jobs';
import { queueIntake, unqueueIntake } from './queue';
import type { Database } from './schema';

export interface NewIntake {
  jobId: string;
  fileName: string;
  size: number;
  /** When the file was last changed, epoch ms. */
  modified: number;
  description: LogDescription;
}

export interface StoredIntake extends Intake {
  jobId: string;
  overlap: OverlapAnswer | null;
}

const SHOWN = [
  'id',
  'job_id',
  'file_name',
  'size',
  'received',
  'description',
  'state',
  'overlap',
  'question',
  'problem',
  'recording_id',
] as const;

/** An intake of the same file for the same device that has not been sent whole is gone on with, as it is now described. */
export async function openIntake(store: Store, intake: NewIntake): Promise<StoredIntake> {
  const { jobId, fileName, size, modified, description } = intake;
  return store.transaction().execute(async (transaction) => {
    const begun = await transaction
      .selectFrom('intakes')
      .select('id')
      .where('job_id', '=', jobId)
      .where('file_name', '=', fileName)
      .where('size', '=', String(size))
      .where('modified', '=', String(modified))
      .where(sql`description->>'device'`, '=', description.device)
      .where('state', '=', 'receiving')
      .forUpdate()
      .executeTakeFirst();
    const row = begun
      ? await transaction
          .updateTable('intakes')
          .set({ description: JSON.stringify(description), changed_at: sql<Date>`now()` })
          .where('id', '=', begun.id)
          .returning(SHOWN)
          .executeTakeFirstOrThrow()
      : await transaction
          .insertInto('intakes')
          .values({
            job_id: jobId,
            file_name: fileName,
            size,
            modified,
            description: JSON.stringify(description),
            state: 'receiving',
          })
          .returning(SHOWN)
          .executeTakeFirstOrThrow();
    return intakeOf(row);
  });
}

export type PartTaken = { received: number } | 'elsewhere' | 'too-long' | 'gone';

/**
 * Stores the next part of a file; with the last one the log is queued, in the same transaction.
 * @returns how much is there now; 'elsewhere' when the part does not begin where the last one ended
 */
export async function takePart(store: Store, id: string, at: number, data: Buffer): Promise<PartTaken> {
  if (!isId(id)) return 'gone';
  return store.transaction().execute(async (transaction): Promise<PartTaken> => {
    const row = await transaction
      .selectFrom('intakes')
      .select(['size', 'received', 'state'])
      .where('id', '=', id)
      .forUpdate()
      .executeTakeFirst();
    if (!row) return 'gone';
    const size = Number(row.size);
    if (row.state !== 'receiving' || at !== Number(row.received)) return 'elsewhere';
    const received = at + data.length;
    if (received > size) return 'too-long';
    await transaction.insertInto('intake_parts').values({ intake_id: id, at, data }).execute();
    const whole = received === size;
    await transaction
      .updateTable('intakes')
      .set({ received, ...(whole ? { state: 'waiting' as const } : {}), changed_at: sql<Date>`now()` })
      .where('id', '=', id)
      .execute();
    if (whole) await queueIntake(transaction, id);
    return { received };
  });
}

export async function findIntake(store: Store, id: string): Promise<StoredIntake | null> {
  if (!isId(id)) return null;
  const row = await store.selectFrom('intakes').select(SHOWN).where('id', '=', id).executeTakeFirst();
  return row ? intakeOf(row) : null;
}

/** Those of a job that are not over, and those that failed and nobody has put away yet. */
export async function listIntakes(store: Store, jobId: string): Promise<Intake[]> {
  const rows = await store
    .selectFrom('intakes')
    .select(SHOWN)
    .where('job_id', '=', jobId)
    .where('state', '!=', 'done')
    .orderBy('created_at')
    .execute();
  return rows.map(intakeOf);
}

/** The bytes of the file, part by part. */
export async function* intakeBytes(store: Store, id: string): AsyncGenerator<Buffer, void, undefined> {
  for (let at = 0; ;) {
    const part = await store
      .selectFrom('intake_parts')
      .select('data')
      .where('intake_id', '=', id)
      .where('at', '=', String(at))
      .executeTakeFirst();
    if (!part) return;
    yield part.data;
    at += part.data.length;
  }
}

/** @returns false when it is gone: somebody has cancelled it */
export async function setIntake(
  store: Kysely<Database>,
  id: string,
  state: IntakeState,
  more: { question?: Overlapped[]; problem?: string; recordingId?: string } = {},
): Promise<boolean> {
  const { numUpdatedRows } = await store
    .updateTable('intakes')
    .set({
      state,
      question: more.question ? JSON.stringify(more.question) : null,
      problem: more.problem ?? null,
      ...(more.recordingId ? { recording_id: more.recordingId } : {}),
      changed_at: sql<Date>`now()`,
    })
    .where('id', '=', id)
    .executeTakeFirst();
  return numUpdatedRows > 0n;
}

/** The bytes are not needed any more. */
export async function dropParts(store: Kysely<Database>, id: string): Promise<void> {
  await store.deleteFrom('intake_parts').where('intake_id', '=', id).execute();
}

/** What shall be with the earlier log that it overlaps; it is queued again. @returns false when nothing was asked */
export async function answerOverlap(store: Store, id: string, overlap: OverlapAnswer): Promise<boolean> {
  if (!isId(id)) return false;
  return store.transaction().execute(async (transaction) => {
    const { numUpdatedRows } = await transaction
      .updateTable('intakes')
      .set({ state: 'waiting', overlap, question: null, changed_at: sql<Date>`now()` })
      .where('id', '=', id)
      .where('state', '=', 'asking')
      .executeTakeFirst();
    if (numUpdatedRows === 0n) return false;
    await queueIntake(transaction, id);
    return true;
  });
}

/** Cancels an intake, or puts away one that is over. A worker that is at it finds it gone and stores nothing. */
export async function removeIntake(store: Store, id: string): Promise<boolean> {
  if (!isId(id)) return false;
  return store.transaction().execute(async (transaction) => {
    const { numDeletedRows } = await transaction
      .deleteFrom('intakes')
      .where('id', '=', id)
      .executeTakeFirst();
    await unqueueIntake(transaction, id);
    return numDeletedRows > 0n;
  });
}

/** Intakes that say that a worker is at them, or has been handed them for a while. */
export async function intakesInWork(store: Store): Promise<string[]> {
  const rows = await store
    .selectFrom('intakes')
    .select('id')
    .where((or) =>
      or.or([
        or('state', 'in', ['reading', 'storing', 'analysing']),
        or.and([
          or('state', '=', 'waiting'),
          or('changed_at', '<', sql<Date>`now() - interval '10 seconds'`),
        ]),
      ]),
    )
    .execute();
  return rows.map((row) => row.id);
}

/** Takes away what has been over, or has lain half sent, for a week. */
export async function clearIntakes(store: Store): Promise<void> {
  await store
    .deleteFrom('intakes')
    .where('state', 'in', ['receiving', 'asking', 'done', 'failed'])
    .where('changed_at', '<', sql<Date>`now() - interval '7 days'`)
    .execute();
}

interface Row {
  id: string;
  job_id: string;
  file_name: string;
  size: string;
  received: string;
  description: LogDescription;
  state: IntakeState;
  overlap: OverlapAnswer | null;
  question: Overlapped[] | null;
  problem: string | null;
  recording_id: string | null;
}

const intakeOf = (row: Row): StoredIntake => ({
  id: row.id,
  jobId: row.job_id,
  fileName: row.file_name,
  size: Number(row.size),
  received: Number(row.received),
  description: row.description,
  state: row.state,
  overlap: row.overlap,
  question: row.question,
  problem: row.problem,
  recordingId: row.recording_id,
});
