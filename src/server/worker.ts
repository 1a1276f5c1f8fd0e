/**
 * A worker: takes logs off the queue, reads and stores them. As many as are wanted may run, on any machine that reaches the database:
 * `DATABASE_URL=… bin/pazienza work`.
 */

import { sql } from 'kysely';
import PgBoss from 'pg-boss';
import { clearIntakes, intakesInWork } from '@/store/intakes';
import { openStore, type Store } from '@/store/database';
import { INTAKE_QUEUE, requeueIntake, RETRIES } from '@/store/queue';
import { type Guards, guardsOf } from '@/store/guard';
import { clearRemoved } from '@/store/jobs';
import { clearSpool } from './spool';
import { endThreads } from './threads';
import { refuse, workIntake } from './workIntake';

/** Logs that one worker reads at the same time. */
const AT_ONCE = 2;
/** How often it is looked for logs whose worker has gone, ms. */
const LOOK_EVERY = 5000;

/** How long what was removed can be put back, days; and how often the rest is cleared, ms. */
const KEPT_DAYS = 7;
const CLEAR_EVERY = 600_000;

const GAVE_UP =
  'The log could not be stored: something failed on the server, four times. Nothing was changed; try again later.';

export interface Worker {
  stop(): Promise<void>;
}

/** @param url of the database */
export async function startWorker(url: string): Promise<Worker> {
  await clearSpool();
  const store = openStore(url);
  const guards = guardsOf(url);
  const boss = new PgBoss({
    connectionString: url,
    max: 4,
    schedule: false,
    application_name: 'pazienza worker',
  });
  boss.on('error', (error) => console.error(`The queue: ${error.message}`));
  await boss.start();
  for (let i = 0; i < AT_ONCE; i++)
    await boss.work<{ intakeId: string }>(
      INTAKE_QUEUE,
      { pollingIntervalSeconds: 0.5, includeMetadata: true },
      async ([job]) => {
        if (job) await take(store, guards, job.data.intakeId, job.retryCount >= RETRIES);
      },
    );
  const look = () =>
    lookAfter(store, guards).catch((error: Error) =>
      console.error(`Looking after the queue: ${error.message}`),
    );
  void look();
  const looking = setInterval(() => void look(), LOOK_EVERY);
  const clear = () =>
    clearRemoved(store, KEPT_DAYS).catch((error: Error) => console.error(`Clearing up: ${error.message}`));
  void clear();
  const clearing = setInterval(() => void clear(), CLEAR_EVERY);
  return {
    async stop() {
      clearInterval(looking);
      clearInterval(clearing);
      await boss.stop({ graceful: true, timeout: 3000, wait: true });
      await endThreads();
      await guards.end();
      await store.destroy();
    },
  };
}

async function take(store: Store, guards: Guards, intakeId: string, last: boolean): Promise<void> {
  const guard = await guards.take(intakeId);
  // Another worker is at it: the queue had given it up too early.
  if (!guard) return;
  try {
    await workIntake(store, intakeId);
  } catch (error) {
    console.error(error);
    // The queue notes in the database how this went, and cannot bear its absence.
    await databaseThere(store);
    if (!last) throw error;
    await refuse(store, intakeId, GAVE_UP);
  } finally {
    await guard.release();
  }
}

/** How often it is asked whether the database is there again, ms. */
const ASK_EVERY = 1000;

async function databaseThere(store: Store): Promise<void> {
  for (;;)
    try {
      await sql`select 1`.execute(store);
      return;
    } catch {
      await new Promise((done) => setTimeout(done, ASK_EVERY));
    }
}

/** A log that a worker says to be at, while no worker stands behind it, is given back to the queue. */
async function lookAfter(store: Store, guards: Guards): Promise<void> {
  for (const intakeId of await intakesInWork(store)) {
    const guard = await guards.take(intakeId);
    if (!guard) continue;
    try {
      if (!(await requeueIntake(store, intakeId))) await refuse(store, intakeId, GAVE_UP);
    } finally {
      await guard.release();
    }
  }
  await clearIntakes(store);
}
