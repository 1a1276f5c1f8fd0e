/** Settings that were changed on the devices of a system, for the record. */

import { sql, type Transaction } from 'kysely';
import type { Change } from '@/core/bundle/schema';
import type { Store } from './database';
import { isId } from './id';
import type { Database } from './schema';

export interface StoredChange extends Change {
  id: string;
}

export async function insertChange(
  store: Store | Transaction<Database>,
  systemId: string,
  change: Change,
): Promise<string> {
  const { on, path, label, unit, before, after, why } = change;
  const { id } = await store
    .insertInto('setting_changes')
    .values({
      system_id: systemId,
      changed_on: on,
      path,
      label,
      unit,
      before: JSON.stringify(before),
      after: JSON.stringify(after),
      why,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** What a list shows at a time. */
const PAGE = 50;

/** The latest first, those after the one with an id (of the same system) when it is given. */
export async function listChanges(
  store: Store,
  systemId: string,
  { after, limit = PAGE }: { after?: string | undefined; limit?: number } = {},
): Promise<StoredChange[]> {
  const rows = await store
    .selectFrom('setting_changes')
    .selectAll()
    .where('system_id', '=', systemId)
    .$if(after !== undefined, (query) =>
      query.where(
        sql<boolean>`(changed_on, created_at, id) < (select changed_on, created_at, id from setting_changes where id = ${after} and system_id = ${systemId})`,
      ),
    )
    .orderBy('changed_on', 'desc')
    .orderBy('created_at', 'desc')
    .orderBy('id', 'desc')
    .limit(limit)
    .execute();
  return rows.map(({ id, changed_on, path, label, unit, before, after, why }) => ({
    id,
    on: changed_on,
    path,
    label,
    unit,
    before,
    after,
    why,
  }));
}

export async function countChanges(store: Store, systemId: string): Promise<number> {
  const { n } = await store
    .selectFrom('setting_changes')
    .select(sql<number>`count(*)::integer`.as('n'))
    .where('system_id', '=', systemId)
    .executeTakeFirstOrThrow();
  return n;
}

/** Takes one change off the record. @returns it, or null when there is none */
export async function deleteChange(
  store: Store | Transaction<Database>,
  systemId: string,
  id: string,
): Promise<Pick<StoredChange, 'path' | 'before' | 'after'> | null> {
  if (!isId(id)) return null;
  const row = await store
    .deleteFrom('setting_changes')
    .where('id', '=', id)
    .where('system_id', '=', systemId)
    .returning(['path', 'before', 'after'])
    .executeTakeFirst();
  return row ?? null;
}
