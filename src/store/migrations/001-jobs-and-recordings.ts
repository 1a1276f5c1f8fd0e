/** Systems, their jobs, the recordings of a job in chunks of columns, and analyses. */

import { type Kysely, sql } from 'kysely';

export async function up(db: Kysely<unknown>): Promise<void> {
  const id = sql`gen_random_uuid()`;
  await db.schema
    .createTable('systems')
    .addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(id))
    .addColumn('slug', 'text', (c) => c.unique())
    .addColumn('description', 'jsonb', (c) => c.notNull())
    .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .execute();

  await db.schema
    .createTable('jobs')
    .addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(id))
    .addColumn('system_id', 'uuid', (c) => c.notNull().references('systems.id').onDelete('cascade'))
    .addColumn('details', 'jsonb', (c) => c.notNull())
    .addColumn('opened_at', 'timestamptz', (c) => c.notNull())
    .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .execute();
  await db.schema.createIndex('jobs_by_system').on('jobs').column('system_id').execute();
  await db.schema.createIndex('jobs_by_opening').on('jobs').column('opened_at').execute();

  await db.schema
    .createTable('recordings')
    .addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(id))
    .addColumn('job_id', 'uuid', (c) => c.notNull().references('jobs.id').onDelete('cascade'))
    .addColumn('device', 'text', (c) => c.notNull())
    .addColumn('file_name', 'text', (c) => c.notNull())
    .addColumn('sha256', sql`char(64)`, (c) => c.notNull())
    .addColumn('plan', 'jsonb', (c) => c.notNull())
    .addColumn('row_count', 'integer', (c) => c.notNull())
    .addColumn('problem_count', 'integer', (c) => c.notNull())
    .addColumn('problems', 'jsonb', (c) => c.notNull())
    .addColumn('sample_count', 'integer', (c) => c.notNull().check(sql`sample_count > 0`))
    .addColumn('from_ms', 'double precision', (c) => c.notNull())
    .addColumn('to_ms', 'double precision', (c) => c.notNull())
    .addColumn('channels', sql`text[]`, (c) => c.notNull())
    .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .addUniqueConstraint('recordings_same_file_once', ['job_id', 'device', 'sha256'])
    .addCheckConstraint('recordings_time_rises', sql`from_ms <= to_ms`)
    .execute();

  await db.schema
    .createTable('recording_chunks')
    .addColumn('recording_id', 'uuid', (c) => c.notNull().references('recordings.id').onDelete('cascade'))
    .addColumn('channel', 'text', (c) => c.notNull())
    .addColumn('sequence', 'integer', (c) => c.notNull())
    .addColumn('sample_count', 'integer', (c) => c.notNull().check(sql`sample_count > 0`))
    .addColumn('known_count', 'integer', (c) =>
      c.notNull().check(sql`known_count between 0 and sample_count`),
    )
    .addColumn('from_ms', 'double precision', (c) => c.notNull())
    .addColumn('to_ms', 'double precision', (c) => c.notNull())
    .addColumn('minimum', 'double precision')
    .addColumn('maximum', 'double precision')
    .addColumn('total', 'double precision', (c) => c.notNull())
    .addColumn('data', 'bytea', (c) => c.notNull())
    .addColumn('summary', 'bytea', (c) => c.notNull())
    .addPrimaryKeyConstraint('recording_chunks_pkey', ['recording_id', 'channel', 'sequence'])
    .execute();
  // Columns of floats hardly compress: storing them as they are makes reading a strip cheaper.
  await sql`alter table recording_chunks alter column data set storage external`.execute(db);

  await db.schema
    .createTable('analyses')
    .addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(id))
    .addColumn('job_id', 'uuid', (c) => c.notNull().unique().references('jobs.id').onDelete('cascade'))
    .addColumn('core_version', 'integer', (c) => c.notNull())
    .addColumn('recording_ids', sql`uuid[]`, (c) => c.notNull())
    .addColumn('result', 'jsonb', (c) => c.notNull())
    .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .execute();
}

export async function down(db: Kysely<unknown>): Promise<void> {
  for (const table of ['analyses', 'recording_chunks', 'recordings', 'jobs', 'systems'])
    await db.schema.dropTable(table).execute();
}
