/** Makes a photo small enough for a report, turned upright, and rid of its metadata (place, device, time). */

import sharp from 'sharp';
import type { SmallPhoto } from './tasks';

const LONGEST_SIDE = 1600;
/** Pixels that are read at all: a camera of today has 50 million. */
const MOST_PIXELS = 100e6;
const SECONDS = 15;

/** JPEG, PNG and WebP by their first bytes: nothing else is given to the decoder. */
const MAGIC: readonly ((b: Uint8Array) => boolean)[] = [
  (b) => starts(b, 0, [0xff, 0xd8, 0xff]),
  (b) => starts(b, 0, [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
  (b) => starts(b, 0, [0x52, 0x49, 0x46, 0x46]) && starts(b, 8, [0x57, 0x45, 0x42, 0x50]),
];

const starts = (b: Uint8Array, at: number, magic: readonly number[]): boolean =>
  magic.every((byte, i) => b[at + i] === byte);

export const isPhoto = (bytes: Uint8Array): boolean => MAGIC.some((is) => is(bytes));

sharp.concurrency(1);
sharp.cache(false);

/** Null for what is no photo that can be read. */
export async function smallPhoto(bytes: Uint8Array): Promise<SmallPhoto | null> {
  if (!isPhoto(bytes)) return null;
  try {
    // Metadata is left behind unless it is asked for; the turn that it told of is made first.
    const { data, info } = await sharp(bytes, { limitInputPixels: MOST_PIXELS, pages: 1 })
      .timeout({ seconds: SECONDS })
      .rotate()
      .resize(LONGEST_SIDE, LONGEST_SIDE, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: 80, mozjpeg: true })
      .toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, data: new Uint8Array(data) };
  } catch {
    return null;
  }
}
