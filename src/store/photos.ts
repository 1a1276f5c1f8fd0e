/** Photos of a job, each with the item of the checklists that it belongs to. */

import { sql } from 'kysely';
import { brokenPromise, type Store } from './database';
import { isId } from './id';

export interface PhotoInfo {
  id: string;
  item: string;
  width: number;
  height: number;
}

export const MOST_PHOTOS = 60;

/** Each photo of a job stands in a place of its own: the lowest that is free. Null when none is. */
const freePlace = (jobId: string) => sql<number>`(
  select min(place)::smallint from generate_series(1, ${sql.lit(MOST_PHOTOS)}) place
  where not exists (select from photos taken where taken.job_id = ${jobId} and taken.place = place.place and taken.removed_at is null))`;

/** Two that come at once may find the same place: the second looks again. @returns null when no place is free */
async function inFreePlace<T>(work: () => Promise<T>): Promise<T | null> {
  for (;;)
    try {
      return await work();
    } catch (error) {
      if ((error as { constraint?: string }).constraint === 'photos_place') return null;
      if (brokenPromise(error) !== 'unique') throw error;
    }
}

/**
 * @param id made where it was taken: one that is sent twice is one
 * @returns null when the job has all the photos that it may have, or the id is that of another job's
 */
export async function insertPhoto(
  store: Store,
  jobId: string,
  photo: Omit<PhotoInfo, 'id'> & { data: Buffer },
  id?: string,
): Promise<PhotoInfo | null> {
  const { item, width, height, data } = photo;
  const isThere = () =>
    store
      .selectFrom('photos')
      .select(['id', 'item', 'width', 'height'])
      .where('id', '=', id!)
      .where('job_id', '=', jobId)
      .executeTakeFirst();
  const sent = id === undefined ? undefined : await isThere();
  if (sent) return sent;
  const row = await inFreePlace(() =>
    store
      .insertInto('photos')
      .values({
        ...(id === undefined ? {} : { id }),
        job_id: jobId,
        item,
        width,
        height,
        data,
        place: freePlace(jobId),
      })
      .onConflict((conflict) => conflict.column('id').doNothing())
      .returning('id')
      .executeTakeFirst(),
  );
  if (row) return { id: row.id, item, width, height };
  // Sent twice at the same moment, the other was quicker.
  return (id === undefined ? undefined : await isThere()) ?? null;
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

const ofStandingJobs = (store: Store) =>
  store
    .selectFrom('photos')
    .innerJoin('jobs', 'jobs.id', 'photos.job_id')
    .where('jobs.removed_at', 'is', null);

export async function findPhoto(store: Store, id: string): Promise<Buffer | null> {
  if (!isId(id)) return null;
  const row = await ofStandingJobs(store).select('data').where('photos.id', '=', id).executeTakeFirst();
  return row?.data ?? null;
}

/** JPEGs by their ids; those that are gone are left out. */
export async function findPhotos(store: Store, ids: readonly string[]): Promise<Map<string, Uint8Array>> {
  const photos = new Map<string, Uint8Array>();
  for (const id of ids) {
    const data = await findPhoto(store, id);
    if (data) photos.set(id, data);
  }
  return photos;
}

/** Takes a photo away, or puts it back. @returns 'gone' when there is none; 'full' when its job has no place for it any more */
export async function setPhotoRemoved(
  store: Store,
  id: string,
  removed: boolean,
): Promise<'done' | 'gone' | 'full'> {
  const row = isId(id)
    ? await ofStandingJobs(store)
        .select(['job_id', 'photos.removed_at'])
        .where('photos.id', '=', id)
        .executeTakeFirst()
    : undefined;
  if (!row) return 'gone';
  if (removed === (row.removed_at !== null)) return 'done';
  const done = await inFreePlace(() =>
    store
      .updateTable('photos')
      .set(
        removed
          ? { removed_at: sql<Date>`now()`, place: null }
          : { removed_at: null, place: freePlace(row.job_id) },
      )
      .where('id', '=', id)
      .execute(),
  );
  return done ? 'done' : 'full';
}
