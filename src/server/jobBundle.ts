/** A job as a bundle: out with all of its description and logs, and in again. */

import { type BundleFiles, readDescription, unzipBundle } from '@/core/bundle/read';
import { type LogToWrite, writeBundle, zipBundle } from '@/core/bundle/write';
import { tableOf } from '@/core/log/export/columns';
import { csvOf } from '@/core/log/export/csv';
import { joined } from '@/core/log/tables/delimited';
import { insertChange, listChanges } from '@/store/changes';
import type { Store } from '@/store/database';
import { findJob, insertJob, insertSystem } from '@/store/jobs';
import { findPhoto, listPhotos } from '@/store/photos';
import { listRecordings } from '@/store/recordings';
import { readingOf } from './readingOf';
import { takeInWhole } from './takeInWhole';
import { NotAPhoto, takeInPhoto } from './takeInPhoto';

const slug = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'job';

/** Null when there is no such job. */
export async function bundleOfJob(
  store: Store,
  id: string,
): Promise<{ fileName: string; zip: Uint8Array } | null> {
  const found = await findJob(store, id);
  if (!found) return null;
  const changes = (await listChanges(store, found.systemId)).map(
    ({ on, path, label, unit, before, after, why }) => ({ on, path, label, unit, before, after, why }),
  );
  const photos = await Promise.all(
    (await listPhotos(store, id)).map(async (photo, i) => ({
      path: `photos/${photo.item}-${i + 1}.jpg`,
      check: photo.item,
      bytes: (await findPhoto(store, photo.id))!,
    })),
  );
  const logs: LogToWrite[] = [];
  for (const recording of await listRecordings(store, id)) {
    const { offsetSeconds, secondsPerDay } = recording.clock;
    const nth = logs.filter((one) => one.description.device === recording.device).length + 1;
    logs.push({
      path: `logs/${recording.device}${nth > 1 ? `-${nth}` : ''}.csv`,
      bytes: joined([...csvOf(tableOf(await readingOf(store, recording)))]),
      description: {
        device: recording.device,
        ...(offsetSeconds ? { clockOffsetSeconds: offsetSeconds } : {}),
        ...(secondsPerDay ? { clockDriftSecondsPerDay: secondsPerDay } : {}),
      },
    });
  }
  const name = slug(found.system.name);
  const files = writeBundle(name, found.job, found.system, logs, { photos, changes });
  return { fileName: `${name}.zip`, zip: zipBundle(files) };
}

export interface TakenIn {
  id: string;
  /** What was not taken in, as sentences. */
  left: string[];
}

/** Opens a job from a bundle, always with a system of its own. @throws BundleError with file and place */
export async function jobFromBundle(store: Store, zip: Uint8Array): Promise<TakenIn> {
  const files: BundleFiles = unzipBundle(zip);
  const { job, system, changes, photos, logs } = readDescription(files);
  const left: string[] = [];
  const id = await store.transaction().execute(async (transaction) => {
    const systemId = await insertSystem(transaction, system);
    const jobId = await insertJob(transaction, systemId, job);
    // Oldest first, so that the record keeps its order.
    for (const change of [...changes].reverse()) await insertChange(transaction, systemId, change);
    return jobId;
  });
  for (const { path, check, bytes } of photos)
    try {
      await takeInPhoto(store, id, check, bytes);
    } catch (error) {
      if (!(error instanceof NotAPhoto)) throw error;
      left.push(`${path}: ${error.message}`);
    }
  const taken = (await findJob(store, id))!;
  for (const { path, description, bytes } of logs) {
    const problem = await takeInWhole(store, taken, path.replace(/^.*\//, ''), description, bytes);
    if (problem) left.push(`${path}: ${problem}`);
  }
  return { id, left };
}
