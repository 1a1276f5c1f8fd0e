/** Readings that were confirmed once, offered again for logs with the same headings. */

import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import type { Recipe } from '@/core/log/intake';
import type { Store } from './database';

export interface StoredRecipe {
  recipe: Recipe;
  /** The log that it was last confirmed with, and when. */
  fileName: string;
  confirmedAt: Date;
}

/** @param key of core/log/intake */
const fingerprint = (key: string): string => createHash('sha256').update(key).digest('hex');

export async function saveRecipe(store: Store, key: string, recipe: Recipe, fileName: string): Promise<void> {
  const values = { reading: JSON.stringify(recipe), file_name: fileName };
  await store
    .insertInto('recipes')
    .values({ fingerprint: fingerprint(key), ...values })
    .onConflict((conflict) =>
      conflict.column('fingerprint').doUpdateSet({ ...values, confirmed_at: sql<Date>`now()` }),
    )
    .execute();
}

export async function findRecipe(store: Store, key: string): Promise<StoredRecipe | null> {
  const row = await store
    .selectFrom('recipes')
    .select(['reading', 'file_name', 'confirmed_at'])
    .where('fingerprint', '=', fingerprint(key))
    .executeTakeFirst();
  return row ? { recipe: row.reading, fileName: row.file_name, confirmedAt: row.confirmed_at } : null;
}
