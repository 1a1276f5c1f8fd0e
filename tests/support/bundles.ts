/** Bundles in tests: put on disk as a request would be, and collected from what is given out. */

import { writeFile } from 'node:fs/promises';
import type { Exported } from '@/server/exportRecording';
import { jobFromBundle } from '@/server/jobBundle';
import { clearPath, spoolPath } from '@/server/spool';
import type { Store } from '@/store/database';

export async function collected({ body }: Exported): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  for await (const piece of body as AsyncIterable<Uint8Array>) pieces.push(piece);
  return Buffer.concat(pieces);
}

/** The job that a bundle makes; nothing may be left out. */
export async function takenIn(store: Store, zip: Uint8Array): Promise<string> {
  const opened = await fromZip(store, zip);
  if (!('id' in opened)) throw new Error(`It was not taken in: ${opened.left.join(' ')}`);
  return opened.id;
}

export async function fromZip(store: Store, zip: Uint8Array, leave = false) {
  const path = await spoolPath();
  await writeFile(path, zip);
  try {
    return await jobFromBundle(store, path, leave);
  } finally {
    await clearPath(path);
  }
}
