/** Logs on their way in: their parts as they arrive, and how far each has come. */

import { sql, type Kysely } from 'kysely';
import {
  answersTo,
  type Intake,
  type IntakeAnswer,
  type IntakeQuestion,
  type IntakeState,
  type OverlapAnswer,
} from '@/core/log/intake';
import type { LogDescription } from '@/core/log/takeIn';
import { type Store, within } from './database';
import { isId } from './id';
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

/** Logs of one job that are on their way in at the same time. */
export const MOST_INTAKES = 200;

const SHOWN = [
  'intakes.id',
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

/**
 * An intake of the same file for the same device that has not been sent whole is gone on with, as it is now described.
 * @returns null when the job has too many on their way
 */
export async function openIntake(store: Store, intake: NewIntake): Promise<StoredIntake | null> {
  const { jobId, fileName, size, modified, description } = intake;
  return within(store, async (transaction) => {
    const { n } = await transaction
      .selectFrom('intakes')
      .select(sql<number>`count(*)::integer`.as('n'))
      .where('job_id', '=', jobId)
      .where('state', '!=', 'done')
      .executeTakeFirstOrThrow();
    if (n >= MOST_INTAKES) return null;
    // The database lets one in for a file, whoever asks at the same time.
    const row = await transaction
      .insertInto('intakes')
      .values({
        job_id: jobId,
        file_name: fileName,
        size,
        modified,
        description: JSON.stringify(description),
        state: 'receiving',
      })
      .onConflict((conflict) =>
        conflict
          .columns(['job_id', 'device', 'file_name', 'size', 'modified'])
          .where('state', '=', 'receiving')
          .doUpdateSet({ description: JSON.stringify(description), changed_at: sql<Date>`now()` }),
      )
      .returning(SHOWN)
      .executeTakeFirstOrThrow();
    return intakeOf(row);
  });
}

/** Intakes of jobs that were not removed: those of removed jobs stand still until their job is put back. */
const ofStandingJobs = (store: Store) =>
  store
    .selectFrom('intakes')
    .innerJoin('jobs', 'jobs.id', 'intakes.job_id')
    .where('jobs.removed_at', 'is', null);

export type PartTaken = { received: number } | 'elsewhere' | 'too-long' | 'gone';

/**
 * Stores the next part of a file; with the last one the log is queued, in the same transaction.
 * @returns how much is there now; 'elsewhere' when the part does not begin where the last one ended
 */
export async function takePart(store: Store, id: string, at: number, data: Buffer): Promise<PartTaken> {
  if (!isId(id)) return 'gone';
  return within(store, async (transaction): Promise<PartTaken> => {
    const row = await ofStandingJobs(transaction)
      .select(['size', 'received', 'state'])
      .where('intakes.id', '=', id)
      .forUpdate('intakes')
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
  const row = await ofStandingJobs(store).select(SHOWN).where('intakes.id', '=', id).executeTakeFirst();
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
    .limit(MOST_INTAKES)
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
  more: { question?: IntakeQuestion; problem?: string; recordingId?: string } = {},
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

/** Answers what a log asks; it is queued again. @returns false when nothing was asked that this answers */
export async function answerIntake(store: Store, id: string, answer: IntakeAnswer): Promise<boolean> {
  if (!isId(id)) return false;
  return store.transaction().execute(async (transaction) => {
    const row = await ofStandingJobs(transaction)
      .select(['intakes.question', 'intakes.description'])
      .where('intakes.id', '=', id)
      .where('state', '=', 'asking')
      .forUpdate('intakes')
      .executeTakeFirst();
    if (!row?.question || !answersTo(row.question).includes(answer)) return false;
    const { kind } = row.question;
    const described = { ...row.description, [kind === 'damaged' ? 'damaged' : 'strayRows']: answer };
    await transaction
      .updateTable('intakes')
      .set({
        state: 'waiting',
        question: null,
        changed_at: sql<Date>`now()`,
        ...(kind === 'overlap'
          ? { overlap: answer as OverlapAnswer }
          : { description: JSON.stringify(described) }),
      })
      .where('id', '=', id)
      .execute();
    await queueIntake(transaction, id);
    return true;
  });
}

/** Logs of a removed job stop where they are. @param transaction the one that removes the job */
export async function haltIntakes(transaction: Kysely<Database>, jobId: string): Promise<void> {
  for (const id of await waitingOf(transaction, jobId)) await unqueueIntake(transaction, id);
}

/** And come back with it. @param transaction the one that puts the job back */
export async function resumeIntakes(transaction: Kysely<Database>, jobId: string): Promise<void> {
  await transaction
    .updateTable('intakes')
    .set({ state: 'waiting', changed_at: sql<Date>`now()` })
    .where('job_id', '=', jobId)
    .where('state', 'in', IN_WORK)
    .execute();
  for (const id of await waitingOf(transaction, jobId)) await queueIntake(transaction, id);
}

const IN_WORK = ['reading', 'storing', 'analysing'] as const;

async function waitingOf(store: Kysely<Database>, jobId: string): Promise<string[]> {
  const rows = await store
    .selectFrom('intakes')
    .select('id')
    .where('job_id', '=', jobId)
    .where('state', 'in', ['waiting', ...IN_WORK])
    .execute();
  return rows.map((row) => row.id);
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
  const rows = await ofStandingJobs(store)
    .select('intakes.id')
    .where((or) =>
      or.or([
        or('state', 'in', IN_WORK),
        or.and([
          or('state', '=', 'waiting'),
          or('intakes.changed_at', '<', sql<Date>`now() - interval '10 seconds'`),
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
  question: IntakeQuestion | null;
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
