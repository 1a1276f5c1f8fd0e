/** The server's one connection pool, kept across reloads of modules in development. */

import { openStore, type Store } from '@/store/database';

const kept = globalThis as typeof globalThis & { pazienzaStore?: Store };

export function store(): Store {
  const url = process.env.DATABASE_URL;
  if (!url)
    throw new Error(
      'DATABASE_URL is not set: start Pazienza with bin/demo, or set it to a PostgreSQL address.',
    );
  return (kept.pazienzaStore ??= openStore(url));
}
