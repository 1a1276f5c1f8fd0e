/** The test database, one suite at a time: suites empty its tables. */

import pg from 'pg';
import { migrate, openStore, type Store } from '@/store/database';

export const testDatabaseUrl = process.env.TEST_DATABASE_URL;

/** Waits until no other suite uses the test database. Call `release` when done. */
export async function takeTestStore(): Promise<{ store: Store; release(): Promise<void> }> {
  const guard = new pg.Client({ connectionString: testDatabaseUrl });
  await guard.connect();
  await guard.query('select pg_advisory_lock(20261125)');
  const store = openStore(testDatabaseUrl!);
  await migrate(store);
  return {
    store,
    async release() {
      await store.deleteFrom('systems').execute();
      await store.destroy();
      await guard.end();
    },
  };
}
