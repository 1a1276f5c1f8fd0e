/** One table for what is kept of a system beside its description: hydrometer rounds move into it, capacity tests join them. */

import { type Kysely, sql } from 'kysely';

export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (text: string) => sql.raw(text).execute(db);
  await run(`create table system_records (
    id uuid primary key,
    system_id uuid not null references systems (id) on delete cascade,
    kind text not null,
    record jsonb not null,
    removed_at timestamptz,
    created_at timestamptz not null default now()
  )`);
  await run('create index system_records_of_system on system_records (system_id, kind)');
  await run(`insert into system_records (id, system_id, kind, record, removed_at, created_at)
    select id, system_id, 'hydrometer-round', round, removed_at, created_at from hydrometer_rounds`);
  await run('drop table hydrometer_rounds');
}
