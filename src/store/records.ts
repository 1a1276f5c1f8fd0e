/**
 * What is kept of a system beside its description: hydrometer rounds, capacity tests, visits, what was done. A record is made where it is typed, with its id:
 * one that is sent twice is one.
 */

import { randomUUID } from 'node:crypto';
import { sql, type Transaction } from 'kysely';
import { type AnyRecord, noRecords, RECORD_KINDS, type SystemRecords } from '@/core/records/records';
import type { Store } from './database';
import { isId } from './id';
import type { Database } from './schema';

/** More than these of a kind no system has: five years of weekly rounds. */
export const MOST_RECORDS = 260;

/** The oldest first; removed ones are left out. */
export async function listRecords(store: Store, systemId: string): Promise<SystemRecords> {
  const records = noRecords();
  if (!isId(systemId)) return records;
  const rows = await store
    .selectFrom('system_records')
    .select(['kind', 'record'])
    .where('system_id', '=', systemId)
    .where('removed_at', 'is', null)
    .orderBy(sql`record ->> 'on'`)
    .orderBy('created_at')
    .limit(MOST_RECORDS * RECORD_KINDS.length)
    .execute();
  for (const { kind, record } of rows) (records[kind] as unknown[]).push(record);
  return records;
}

/** @returns false when the record belongs to another system, or the system has all that it may have of the kind */
export async function saveRecord(store: Store, systemId: string, made: AnyRecord): Promise<boolean> {
  return store.transaction().execute(async (transaction) => {
    const { count } = await transaction
      .selectFrom('system_records')
      .select(({ fn }) => fn.countAll<string>().as('count'))
      .where('system_id', '=', systemId)
      .where('kind', '=', made.kind)
      .where('removed_at', 'is', null)
      .where('id', '<>', made.record.id)
      .executeTakeFirstOrThrow();
    if (Number(count) >= MOST_RECORDS) return false;
    const saved = await insertRecord(transaction, systemId, made);
    if (saved) await changed(transaction, systemId);
    return saved;
  });
}

/** @returns false when the record is there already, on another system or of another kind */
async function insertRecord(
  store: Store | Transaction<Database>,
  systemId: string,
  { kind, record }: AnyRecord,
): Promise<boolean> {
  const saved = await store
    .insertInto('system_records')
    .values({ id: record.id, system_id: systemId, kind, record: JSON.stringify(record) })
    .onConflict((conflict) =>
      conflict
        .column('id')
        .doUpdateSet({ record: JSON.stringify(record), removed_at: null })
        .where('system_records.system_id', '=', systemId)
        .where('system_records.kind', '=', kind),
    )
    .returning('id')
    .executeTakeFirst();
  return saved !== undefined;
}

/** Records of a new system, each with an id of its own. */
export async function insertRecords(
  store: Store | Transaction<Database>,
  systemId: string,
  records: SystemRecords,
  jobId?: string,
): Promise<void> {
  for (const kind of RECORD_KINDS)
    for (const record of records[kind]) {
      // What belongs to a job belongs to the one that comes with it.
      const own = { ...record, id: randomUUID(), ...('job' in record && jobId ? { job: jobId } : {}) };
      await insertRecord(store, systemId, { kind, record: own } as AnyRecord);
    }
}

/** Takes a record off, or puts it back. @returns false when there is no such record */
export async function setRecordRemoved(
  store: Store,
  systemId: string,
  id: string,
  removed: boolean,
): Promise<boolean> {
  return store.transaction().execute(async (transaction) => {
    const moved = await transaction
      .updateTable('system_records')
      .set({ removed_at: removed ? sql<Date>`now()` : null })
      .where('id', '=', id)
      .where('system_id', '=', systemId)
      .returning('id')
      .executeTakeFirst();
    if (moved) await changed(transaction, systemId);
    return moved !== undefined;
  });
}

/** What was weighed with the system’s records is stale. */
const changed = (store: Transaction<Database>, systemId: string) =>
  store
    .updateTable('systems')
    .set(({ eb }) => ({ version: eb('version', '+', 1) }))
    .where('id', '=', systemId)
    .execute();
