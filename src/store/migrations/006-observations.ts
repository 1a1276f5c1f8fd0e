/**
 * What the logs of a job show is kept apart from what it comes to: it is dear to make, and a typed note does not change it. Both say
 * which core made them. Analyses are made anew when they are next asked for.
 */

import { type Kysely, sql } from 'kysely';

export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (text: string) => sql.raw(text).execute(db);
  await run('delete from analyses');
  await run('alter table analyses drop column core_version, add column core text not null');
  await run(`create table observations (
    job_id uuid primary key references jobs (id) on delete cascade,
    made_from text not null,
    observed bytea not null,
    created_at timestamptz not null default now()
  )`);
}
