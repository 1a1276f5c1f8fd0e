/** Opens a job bundle: unpacks it to disk, reads its description and every log once, so that what cannot be taken in is said before. */

import { createWriteStream } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import {
  bundleEntries,
  type BundleFile,
  bundleFiles,
  checkLogs,
  readDescription,
  told,
} from '@/core/bundle/read';
import { CHECKLIST } from '@/core/system/checklist';
import { onDisk, zipOnDisk } from './onDisk';
import { smallPhoto } from './photo';
import type { OpenedBundle } from './tasks';

const MOST_PHOTOS = 60;
const LARGEST_PHOTO = 20 * 2 ** 20;

/** @throws BundleError */
export async function openBundle(path: string, folder: string): Promise<OpenedBundle> {
  await mkdir(folder, { mode: 0o700 });
  const paths = new Map<BundleFile, string>();
  const files: [string, BundleFile][] = [];
  const { zip, close } = await zipOnDisk(path);
  try {
    for (const [nth, entry] of (await bundleEntries(zip)).entries()) {
      const at = join(folder, String(nth));
      const out = createWriteStream(at, { mode: 0o600 });
      const written = new Promise<void>((done, failed) => {
        out.once('close', done);
        out.once('error', failed);
      });
      await told(() =>
        entry.unpack(async (piece) => {
          if (!out.write(piece)) await new Promise<void>((drained) => out.once('drain', drained));
        }),
      ).finally(() => out.end());
      await written;
      const file = onDisk(at);
      paths.set(file, at);
      files.push([entry.name, file]);
    }
  } finally {
    await close();
  }
  const described = await readDescription(bundleFiles(files));
  const { readable, left } = await checkLogs(described);
  const photos: OpenedBundle['photos'] = [];
  for (const { path: name, check, file } of described.photos) {
    const photo = file.size <= LARGEST_PHOTO ? await smallPhoto(await file.bytes()) : null;
    if (!CHECKLIST.some((one) => one.id === check))
      left.push(`${name}: its item of the checklist, “${check}”, is not known here.`);
    else if (photos.length >= MOST_PHOTOS) left.push(`${name}: a job keeps ${MOST_PHOTOS} photos.`);
    else if (!photo) left.push(`${name}: it cannot be read as a photo (JPEG, PNG or WebP).`);
    else photos.push({ check, photo });
  }
  const logs = readable.map(({ path: name, file, description }) => ({
    fileName: name.replace(/^.*\//, ''),
    path: paths.get(file)!,
    size: file.size,
    description,
  }));
  const { job, system, changes, records } = described;
  return { job, system, changes, records, photos, logs, left };
}
