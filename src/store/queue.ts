/** The queue of logs that wait for a worker, in the same database: a log is queued in the transaction that brings its last part. */

import { CompiledQuery, type Kysely } from 'kysely';
import PgBoss from 'pg-boss';
import type { Database } from './schema';

export const INTAKE_QUEUE = 'intake';

/** How often a log is tried that a worker could not finish, beside the first time. */
export const RETRIES = 3;

/** The queue speaks through the connection or transaction of the store. */
const through = (store: Kysely<Database>): PgBoss.Db => ({
  async executeSql(text, values) {
    const { rows } = await store.executeQuery(CompiledQuery.raw(text, values ?? []));
    return { rows: rows as unknown[] };
  },
});

/** Whoever only queues need not start anything: tables and queue are there since the last migration. */
const sender = (store: Kysely<Database>): PgBoss =>
  new PgBoss({ db: through(store), supervise: false, schedule: false });

/** Makes the queue's tables, or brings them up to date. */
export async function prepareQueue(store: Kysely<Database>): Promise<void> {
  const boss = sender(store);
  boss.on('error', (error) => console.error(error));
  await boss.start();
  try {
    const options = { name: INTAKE_QUEUE, retryLimit: RETRIES, retryDelay: 1, expireInMinutes: 60 };
    if (await boss.getQueue(INTAKE_QUEUE)) await boss.updateQueue(INTAKE_QUEUE, options);
    else await boss.createQueue(INTAKE_QUEUE, options);
  } finally {
    await boss.stop({ graceful: false, close: false });
  }
}

/** @param store a transaction: the log is queued when it is committed */
export async function queueIntake(store: Kysely<Database>, intakeId: string): Promise<void> {
  const boss = sender(store);
  // One that was queued before (it asked something, or had failed) is over: its place is free.
  await boss.deleteJob(INTAKE_QUEUE, intakeId);
  await boss.send(INTAKE_QUEUE, { intakeId }, { id: intakeId });
}

export async function unqueueIntake(store: Kysely<Database>, intakeId: string): Promise<void> {
  await sender(store).deleteJob(INTAKE_QUEUE, intakeId);
}

/** Gives a log back to the queue whose worker has gone. @returns false when it has been tried often enough */
export async function requeueIntake(store: Kysely<Database>, intakeId: string): Promise<boolean> {
  const boss = sender(store);
  const job = await boss.getJobById(INTAKE_QUEUE, intakeId);
  switch (job?.state) {
    case 'created':
    case 'retry':
      return true;
    case 'failed':
      return false;
    case 'active':
      await boss.fail(INTAKE_QUEUE, intakeId, { message: 'The worker has gone.' });
      return job.retryCount < job.retryLimit;
    default:
      // Over for the queue, but not for the log: it was handed out while its former worker was still thought to be at it.
      await queueIntake(store, intakeId);
      return true;
  }
}
