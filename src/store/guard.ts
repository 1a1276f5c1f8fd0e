/** Who works on a log holds a lock of the database for it: when the worker or its machine goes, the lock goes with its connection. */

import pg from 'pg';

export interface Guard {
  release(): Promise<void>;
}

/** A connection to a machine that has vanished is given up after about a minute. */
const KEPT_ALIVE = '-c tcp_keepalives_idle=20 -c tcp_keepalives_interval=10 -c tcp_keepalives_count=4';

/** @param url of the database. @returns null when somebody else holds it */
export async function takeGuard(url: string, id: string): Promise<Guard | null> {
  const client = new pg.Client({ connectionString: url, keepAlive: true, options: KEPT_ALIVE });
  // A broken connection shows when it is next used; the lock is gone then, and whoever looks after the queue sees it.
  client.on('error', () => undefined);
  await client.connect();
  const { rows } = await client.query<{ taken: boolean }>(
    "select pg_try_advisory_lock(hashtextextended('intake ' || $1, 0)) as taken",
    [id],
  );
  if (rows[0]?.taken) return { release: () => client.end() };
  await client.end();
  return null;
}
