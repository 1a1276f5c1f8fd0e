/** Recordings that are removed can be put back; a removed file may be taken in again. */

import { type Kysely, sql } from 'kysely';

export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema.alterTable('recordings').addColumn('removed_at', 'timestamptz').execute();
  await db.schema.alterTable('recordings').dropConstraint('recordings_same_file_once').execute();
  await sql`create unique index recordings_same_file_once on recordings (job_id, device, sha256) where removed_at is null`.execute(
    db,
  );
}

export async function down(db: Kysely<unknown>): Promise<void> {
  await sql`delete from recordings where removed_at is not null`.execute(db);
  await sql`drop index recordings_same_file_once`.execute(db);
  await db.schema
    .alterTable('recordings')
    .addUniqueConstraint('recordings_same_file_once', ['job_id', 'device', 'sha256'])
    .execute();
  await db.schema.alterTable('recordings').dropColumn('removed_at').execute();
}
