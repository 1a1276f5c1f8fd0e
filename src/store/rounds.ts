/** Hydrometer rounds of a system. A round is made where it is typed, with its id: one that is sent twice is one. */

import { sql, type Transaction } from 'kysely';
import type { Round } from '@/core/hydrometer/round';
import type { Store } from './database';
import { isId } from './id';
import type { Database } from './schema';

/** More than these no system has: five years of weekly rounds. */
export const MOST_ROUNDS = 260;

/** The oldest first; removed ones are left out. */
export async function listRounds(store: Store, systemId: string): Promise<Round[]> {
  if (!isId(systemId)) return [];
  const rows = await store
    .selectFrom('hydrometer_rounds')
    .select('round')
    .where('system_id', '=', systemId)
    .where('removed_at', 'is', null)
    .orderBy(sql`round ->> 'on'`)
    .orderBy('created_at')
    .limit(MOST_ROUNDS)
    .execute();
  return rows.map((one) => one.round);
}

/** @returns false when the round belongs to another system, or the system has all the rounds that it may have */
export async function saveRound(store: Store, systemId: string, round: Round): Promise<boolean> {
  return store.transaction().execute(async (transaction) => {
    const { count } = await transaction
      .selectFrom('hydrometer_rounds')
      .select(({ fn }) => fn.countAll<string>().as('count'))
      .where('system_id', '=', systemId)
      .where('removed_at', 'is', null)
      .where('id', '<>', round.id)
      .executeTakeFirstOrThrow();
    if (Number(count) >= MOST_ROUNDS) return false;
    const saved = await insertRound(transaction, systemId, round);
    if (saved) await changed(transaction, systemId);
    return saved;
  });
}

/** @returns false when the round is there already, on another system */
export async function insertRound(
  store: Store | Transaction<Database>,
  systemId: string,
  round: Round,
): Promise<boolean> {
  const saved = await store
    .insertInto('hydrometer_rounds')
    .values({ id: round.id, system_id: systemId, round: JSON.stringify(round) })
    .onConflict((conflict) =>
      conflict
        .column('id')
        .doUpdateSet({ round: JSON.stringify(round), removed_at: null })
        .where('hydrometer_rounds.system_id', '=', systemId),
    )
    .returning('id')
    .executeTakeFirst();
  return saved !== undefined;
}

/** Takes a round off, or puts it back. @returns false when there is no such round */
export async function setRoundRemoved(
  store: Store,
  systemId: string,
  id: string,
  removed: boolean,
): Promise<boolean> {
  return store.transaction().execute(async (transaction) => {
    const moved = await transaction
      .updateTable('hydrometer_rounds')
      .set({ removed_at: removed ? sql<Date>`now()` : null })
      .where('id', '=', id)
      .where('system_id', '=', systemId)
      .returning('id')
      .executeTakeFirst();
    if (moved) await changed(transaction, systemId);
    return moved !== undefined;
  });
}

/** What was weighed with the system’s rounds is stale. */
const changed = (store: Transaction<Database>, systemId: string) =>
  store
    .updateTable('systems')
    .set(({ eb }) => ({ version: eb('version', '+', 1) }))
    .where('id', '=', systemId)
    .execute();
