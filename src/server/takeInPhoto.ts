/** Takes a photo in: made small enough for a report, turned upright, and rid of its metadata (place, device, time). */

import sharp, { type OutputInfo } from 'sharp';
import { CHECKLIST } from '@/core/system/checklist';
import type { Store } from '@/store/database';
import { insertPhoto, listPhotos, type PhotoInfo } from '@/store/photos';

/** Photos larger than this are not read at all, bytes. */
export const LARGEST_PHOTO = 20 * 1024 * 1024;
const MOST_PHOTOS = 60;
const LONGEST_SIDE = 1600;

/** What is wrong with a photo, as a sentence for the user. */
export class NotAPhoto extends Error {}

/** @throws NotAPhoto */
export async function takeInPhoto(
  store: Store,
  jobId: string,
  item: string,
  bytes: Uint8Array,
): Promise<PhotoInfo> {
  if (!CHECKLIST.some((one) => one.id === item))
    throw new NotAPhoto('The photo belongs to no item of the checklist: take it in again from the list.');
  if (bytes.length > LARGEST_PHOTO)
    throw new NotAPhoto('The photo is larger than 20 MB. Make it smaller and take it in again.');
  if ((await listPhotos(store, jobId)).length >= MOST_PHOTOS)
    throw new NotAPhoto(`A job keeps ${MOST_PHOTOS} photos: remove one first.`);
  let made: { data: Buffer; info: OutputInfo };
  try {
    // Metadata is left behind unless it is asked for; the turn that it told of is made first.
    made = await sharp(bytes, { limitInputPixels: 100e6 })
      .rotate()
      .resize(LONGEST_SIDE, LONGEST_SIDE, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: 80, mozjpeg: true })
      .toBuffer({ resolveWithObject: true });
  } catch {
    throw new NotAPhoto(
      'This file cannot be read as a photo. Take a JPEG, PNG or WebP; a HEIC photo must be sent as JPEG.',
    );
  }
  const { width, height } = made.info;
  return insertPhoto(store, jobId, { item, width, height, data: made.data });
}
