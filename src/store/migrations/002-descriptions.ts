/** Descriptions that are edited: versions, removal that can be undone, changed settings for the record, photos. */

import { type Kysely, sql } from 'kysely';

/** 2 MiB: what a photo may take after it was made smaller. */
const PHOTO_BYTES = 2 * 1024 * 1024;

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const table of ['systems', 'jobs'])
    await db.schema
      .alterTable(table)
      .addColumn('version', 'integer', (c) => c.notNull().defaultTo(1))
      .addColumn('changed_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
      .execute();
  await db.schema.alterTable('jobs').addColumn('removed_at', 'timestamptz').execute();
  // Which versions of the descriptions an analysis was made from.
  await db.schema
    .alterTable('analyses')
    .addColumn('described', 'text', (c) => c.notNull().defaultTo(''))
    .execute();

  await db.schema
    .createTable('setting_changes')
    .addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(sql`gen_random_uuid()`))
    .addColumn('system_id', 'uuid', (c) => c.notNull().references('systems.id').onDelete('cascade'))
    .addColumn('changed_on', sql`char(10)`, (c) => c.notNull())
    .addColumn('path', 'text', (c) => c.notNull())
    .addColumn('label', 'text', (c) => c.notNull())
    .addColumn('unit', 'text', (c) => c.notNull())
    .addColumn('before', 'jsonb', (c) => c.notNull())
    .addColumn('after', 'jsonb', (c) => c.notNull())
    .addColumn('why', 'text', (c) => c.notNull())
    .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .execute();
  await db.schema
    .createIndex('setting_changes_by_system')
    .on('setting_changes')
    .column('system_id')
    .execute();

  await db.schema
    .createTable('photos')
    .addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(sql`gen_random_uuid()`))
    .addColumn('job_id', 'uuid', (c) => c.notNull().references('jobs.id').onDelete('cascade'))
    .addColumn('item', 'text', (c) => c.notNull())
    .addColumn('width', 'integer', (c) => c.notNull())
    .addColumn('height', 'integer', (c) => c.notNull())
    .addColumn('data', 'bytea', (c) =>
      c.notNull().check(sql`octet_length(data) between 1 and ${sql.lit(PHOTO_BYTES)}`),
    )
    .addColumn('removed_at', 'timestamptz')
    .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .execute();
  await db.schema.createIndex('photos_by_job').on('photos').column('job_id').execute();
  // Photos are compressed already.
  await sql`alter table photos alter column data set storage external`.execute(db);
}

export async function down(db: Kysely<unknown>): Promise<void> {
  await db.schema.dropTable('photos').execute();
  await db.schema.dropTable('setting_changes').execute();
  await db.schema.alterTable('analyses').dropColumn('described').execute();
  await db.schema.alterTable('jobs').dropColumn('removed_at').execute();
  for (const table of ['systems', 'jobs'])
    await db.schema.alterTable(table).dropColumn('version').dropColumn('changed_at').execute();
}
