/**
 * Who works on a log holds a lock of the database for it: when the worker or its machine goes, the locks go with its connection. One
 * connection holds all that a worker has.
 */

import pg from 'pg';

export interface Guard {
  release(): Promise<void>;
}

export interface Guards {
  /** @returns null when somebody else holds it, or this worker does already */
  take(id: string): Promise<Guard | null>;
  end(): Promise<void>;
}

/** A connection to a machine that has vanished is given up after about a minute. */
const KEPT_ALIVE = '-c tcp_keepalives_idle=20 -c tcp_keepalives_interval=10 -c tcp_keepalives_count=4';

/** @param url of the database */
export function guardsOf(url: string): Guards {
  let connection: Promise<pg.Client> | null = null;
  // The database would give the same connection the same lock twice.
  const held = new Set<string>();
  const connect = (): Promise<pg.Client> =>
    (connection ??= (async () => {
      const client = new pg.Client({ connectionString: url, keepAlive: true, options: KEPT_ALIVE });
      // Broken, its locks are gone, and whoever looks after the queue sees it; the next one to be taken makes a new connection.
      client.on('error', () => undefined);
      client.on('end', () => (connection = null));
      await client.connect();
      return client;
    })().catch((error: unknown) => {
      connection = null;
      throw error;
    }));
  const ask = async (what: 'pg_try_advisory_lock' | 'pg_advisory_unlock', id: string): Promise<boolean> => {
    const client = await connect();
    const { rows } = await client.query<{ done: boolean }>(
      `select ${what}(hashtextextended('intake ' || $1, 0)) as done`,
      [id],
    );
    return rows[0]?.done === true;
  };
  return {
    async take(id) {
      if (held.has(id)) return null;
      held.add(id);
      try {
        if (!(await ask('pg_try_advisory_lock', id))) {
          held.delete(id);
          return null;
        }
      } catch (error) {
        held.delete(id);
        throw error;
      }
      return {
        async release() {
          held.delete(id);
          // With the connection the lock is gone already.
          if (connection) await ask('pg_advisory_unlock', id).catch(() => undefined);
        },
      };
    },
    async end() {
      const client = await connection?.catch(() => null);
      await client?.end();
    },
  };
}
