/** Logs on their way in, in parts, so that any worker can take them up; clocks of recordings; recipes for reading a kind of log. */

import { type Kysely, sql } from 'kysely';

export async function up(db: Kysely<unknown>): Promise<void> {
  const id = sql`gen_random_uuid()`;
  await db.schema
    .alterTable('recordings')
    // How its times are set; what they were as read stands in chunks of 'time_read' where that is something else.
    .addColumn('clock', 'jsonb')
    .addColumn('clock_version', 'integer', (c) => c.notNull().defaultTo(1))
    .addColumn('zoned', 'boolean', (c) => c.notNull().defaultTo(true))
    .addColumn('replaces', sql`uuid[]`, (c) => c.notNull().defaultTo(sql`'{}'`))
    .execute();
  await sql`update recordings set clock = jsonb_build_object('timeZone', plan->>'timeZone', 'offsetSeconds', 0, 'secondsPerDay', 0)`.execute(
    db,
  );
  await sql`alter table recordings alter column clock set not null`.execute(db);

  await db.schema
    .createTable('intakes')
    .addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(id))
    .addColumn('job_id', 'uuid', (c) => c.notNull().references('jobs.id').onDelete('cascade'))
    .addColumn('file_name', 'text', (c) => c.notNull())
    .addColumn('size', 'bigint', (c) => c.notNull().check(sql`size > 0`))
    // Tells the file apart from another of the same name when sending goes on.
    .addColumn('modified', 'bigint', (c) => c.notNull())
    .addColumn('description', 'jsonb', (c) => c.notNull())
    .addColumn('received', 'bigint', (c) => c.notNull().defaultTo(0))
    .addColumn('state', 'text', (c) => c.notNull())
    .addColumn('overlap', 'text', (c) => c.check(sql`overlap in ('merge', 'replace')`))
    .addColumn('question', 'jsonb')
    .addColumn('problem', 'text')
    .addColumn('recording_id', 'uuid', (c) => c.references('recordings.id').onDelete('set null'))
    .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .addColumn('changed_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .addCheckConstraint('intakes_received', sql`received between 0 and size`)
    .execute();
  await db.schema.createIndex('intakes_by_job').on('intakes').column('job_id').execute();
  await db.schema
    .createTable('intake_parts')
    .addColumn('intake_id', 'uuid', (c) => c.notNull().references('intakes.id').onDelete('cascade'))
    .addColumn('at', 'bigint', (c) => c.notNull())
    .addColumn('data', 'bytea', (c) => c.notNull())
    .addPrimaryKeyConstraint('intake_parts_pkey', ['intake_id', 'at'])
    .execute();
  await sql`alter table intake_parts alter column data set storage external`.execute(db);

  await db.schema
    .createTable('recipes')
    .addColumn('fingerprint', sql`char(64)`, (c) => c.primaryKey())
    .addColumn('reading', 'jsonb', (c) => c.notNull())
    .addColumn('file_name', 'text', (c) => c.notNull())
    .addColumn('confirmed_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .execute();
}

export async function down(db: Kysely<unknown>): Promise<void> {
  for (const table of ['recipes', 'intake_parts', 'intakes']) await db.schema.dropTable(table).execute();
  await sql`delete from recording_chunks where channel = 'time_read'`.execute(db);
  await db.schema
    .alterTable('recordings')
    .dropColumn('clock')
    .dropColumn('clock_version')
    .dropColumn('zoned')
    .dropColumn('replaces')
    .execute();
}
