/** A test database for each worker of the test runner, made by scripts/test.mjs and empty when a suite begins. */

import pg from 'pg';
import { migrate, openStore, type Store } from '@/store/database';

const given = process.env.TEST_DATABASE_URL;
export const testDatabaseUrl = given && `${given}_${process.env.JEST_WORKER_ID ?? 1}`;

/** Call `release` when done. */
export async function takeTestStore(): Promise<{ store: Store; release(): Promise<void> }> {
  const client = new pg.Client({ connectionString: testDatabaseUrl });
  await client.connect();
  await client.query('drop owned by current_user cascade');
  await client.query('create schema if not exists public');
  await client.end();
  const store = openStore(testDatabaseUrl!);
  await migrate(store);
  return { store, release: () => store.destroy() };
}
