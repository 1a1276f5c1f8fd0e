/** Takes a photo in, for an item of the checklists or for what a visit shows. */

import { readPhotoItem } from '@/core/onsite/photoItem';
import { CHECKLIST } from '@/core/system/checklist';
import type { Store } from '@/store/database';
import { insertPhoto, MOST_PHOTOS, type PhotoInfo } from '@/store/photos';
import type { SmallPhoto } from '@/workers/tasks';
import { Refusal } from './refusal';
import { photoInThread } from './threads';

/** @throws Refusal */
export async function takeInPhoto(
  store: Store,
  jobId: string,
  item: string,
  bytes: Uint8Array,
  photoId?: string,
): Promise<PhotoInfo> {
  if (!CHECKLIST.some((one) => one.id === item) && !readPhotoItem(item))
    throw new Refusal(400, 'The photo belongs to no item of the checklist: take it in again from the list.');
  const photo = await photoInThread(bytes);
  if (!photo)
    throw new Refusal(
      400,
      'This file cannot be read as a photo. Take a JPEG, PNG or WebP; a HEIC photo must be sent as JPEG.',
    );
  return keepPhoto(store, jobId, item, photo, photoId);
}

/** @throws Refusal when the job has all that it may have */
export async function keepPhoto(
  store: Store,
  jobId: string,
  item: string,
  { width, height, data }: SmallPhoto,
  photoId?: string,
): Promise<PhotoInfo> {
  const kept = await insertPhoto(store, jobId, { item, width, height, data: Buffer.from(data) }, photoId);
  if (!kept) throw new Refusal(409, `A job keeps ${MOST_PHOTOS} photos: remove one first.`);
  return kept;
}
