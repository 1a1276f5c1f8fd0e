/** Photos of a job, each with the item of the checklists that it belongs to. */

import { sql } from 'kysely';
import type { Store } from './database';
import { isId } from './jobs';

export interface PhotoInfo {
  id: string;
  item: string;
  width: number;
  height: number;
}

export async function insertPhoto(
  store: Store,
  jobId: string,
  photo: Omit<PhotoInfo, 'id'> & { data: Buffer },
): Promise<PhotoInfo> {
  const { item, width, height, data } = photo;
  const { id } = await store
    .insertInto('photos')
    .values({ job_id: jobId, item, width, height, data })
    .returning('id')
    .executeTakeFirstOrThrow();
  return { id, item, width, height };
}

/** In the order in which they were taken in; removed ones are left out. */
export async function listPhotos(store: Store, jobId: string): Promise<PhotoInfo[]> {
  return store
    .selectFrom('photos')
    .select(['id', 'item', 'width', 'height'])
    .where('job_id', '=', jobId)
    .where('removed_at', 'is', null)
    .orderBy('created_at')
    .orderBy('id')
    .execute();
}

export async function findPhoto(store: Store, id: string): Promise<Buffer | null> {
  if (!isId(id)) return null;
  const row = await store.selectFrom('photos').select('data').where('id', '=', id).executeTakeFirst();
  return row?.data ?? null;
}

/** Takes a photo away, or puts it back. @returns false when there is none */
export async function setPhotoRemoved(store: Store, id: string, removed: boolean): Promise<boolean> {
  if (!isId(id)) return false;
  const { numUpdatedRows } = await store
    .updateTable('photos')
    .set({ removed_at: removed ? sql<Date>`now()` : null })
    .where('id', '=', id)
    .executeTakeFirst();
  return numUpdatedRows > 0n;
}
