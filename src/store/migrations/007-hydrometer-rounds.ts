/** Hydrometer rounds belong to a system, and outlive its jobs. */

import { type Kysely, sql } from 'kysely';

export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (text: string) => sql.raw(text).execute(db);
  await run(`create table hydrometer_rounds (
    id uuid primary key,
    system_id uuid not null references systems (id) on delete cascade,
    round jsonb not null,
    removed_at timestamptz,
    created_at timestamptz not null default now()
  )`);
  await run('create index hydrometer_rounds_of_system on hydrometer_rounds (system_id)');
}
