/** A job as a bundle: out with all of its description and logs, and in again. */

import { createReadStream } from 'node:fs';
import { Zip, ZipDeflate } from 'fflate';
import { MOST_CHANGES } from '@/core/bundle/schema';
import { writeBundle } from '@/core/bundle/write';
import { tableOf } from '@/core/log/export/columns';
import { csvOf } from '@/core/log/export/csv';
import { PART_BYTES } from '@/core/log/intake';
import { insertChange, listChanges } from '@/store/changes';
import type { Store } from '@/store/database';
import { takePart } from '@/store/intakes';
import { findJob, insertJob, insertSystem } from '@/store/jobs';
import { findPhoto, listPhotos } from '@/store/photos';
import { listRecordings } from '@/store/recordings';
import { insertRecords, listRecords } from '@/store/records';
import { beginIntake } from './beginIntake';
import type { Exported } from './exportRecording';
import { readingOf } from './readingOf';
import { gone, Refusal } from './refusal';
import { clearPath, spoolPath } from './spool';
import { keepPhoto } from './takeInPhoto';
import { recordsOfJob } from '@/core/records/records';
import { openBundleInThread } from './threads';

const slug = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'job';

/** @throws Refusal when there is no such job */
export async function bundleOfJob(store: Store, id: string): Promise<Exported> {
  const found = await findJob(store, id);
  if (!found) throw gone('job');
  const changes = (await listChanges(store, found.systemId, { limit: MOST_CHANGES })).map(
    ({ on, path, label, unit, before, after, why }) => ({ on, path, label, unit, before, after, why }),
  );
  const photos = await Promise.all(
    (await listPhotos(store, id)).map(async (photo, i) => ({
      path: `photos/${photo.item}-${i + 1}.jpg`,
      check: photo.item,
      bytes: (await findPhoto(store, photo.id))!,
    })),
  );
  const recordings = await listRecordings(store, id);
  const logs = recordings.map(({ device, clock }, i) => {
    const nth = recordings.slice(0, i).filter((one) => one.device === device).length + 1;
    return {
      path: `logs/${device}${nth > 1 ? `-${nth}` : ''}.csv`,
      // Written piece by piece, after the description.
      bytes: new Uint8Array(0),
      description: {
        device,
        ...(clock.offsetSeconds ? { clockOffsetSeconds: clock.offsetSeconds } : {}),
        ...(clock.secondsPerDay ? { clockDriftSecondsPerDay: clock.secondsPerDay } : {}),
      },
    };
  });
  const name = slug(found.system.name);
  const files = writeBundle(name, found.job, found.system, logs, {
    photos,
    changes,
    records: recordsOfJob(await listRecords(store, found.systemId), id),
  });
  async function* pieces(): AsyncGenerator<readonly [string, Iterable<Uint8Array>]> {
    for (const [path, bytes] of files) {
      const nth = logs.findIndex((one) => one.path === path);
      yield [path, nth < 0 ? [bytes] : csvOf(tableOf(await readingOf(store, recordings[nth]!)))];
    }
  }
  return { fileName: `${name}.zip`, type: 'application/zip', body: zipped(pieces()) };
}

/** A zip, given out as it is packed: one recording stands in memory at a time. */
async function* zipped(
  files: AsyncIterable<readonly [string, Iterable<Uint8Array>]>,
): AsyncGenerator<Uint8Array> {
  let out: Uint8Array[] = [];
  const zip = new Zip((error, piece) => {
    if (error) throw error;
    out.push(piece);
  });
  function* given() {
    const got = out;
    out = [];
    yield* got;
  }
  for await (const [path, pieces] of files) {
    const entry = new ZipDeflate(path);
    entry.mtime = '2000-01-01T00:00:00Z';
    zip.add(entry);
    for (const piece of pieces) {
      entry.push(piece);
      yield* given();
    }
    entry.push(new Uint8Array(0), true);
    yield* given();
  }
  zip.end();
  yield* given();
}

/**
 * Opens a job from a bundle, always with a system of its own. Job, photos and logs on their way in come into being together or not at all.
 * @param leave take it in although something of it is left out
 * @returns the job's id, or what would be left out: then nothing was stored @throws BundleError with file and place
 */
export async function jobFromBundle(
  store: Store,
  path: string,
  leave: boolean,
): Promise<{ id: string; left: string[] } | { left: string[] }> {
  const folder = await spoolPath();
  try {
    const { job, system, changes, records, photos, logs, left } = await openBundleInThread(path, folder);
    if (left.length > 0 && !leave) return { left };
    const id = await store.transaction().execute(async (transaction) => {
      const systemId = await insertSystem(transaction, system);
      const jobId = await insertJob(transaction, systemId, job);
      // Oldest first, so that the record keeps its order.
      for (const change of [...changes].reverse()) await insertChange(transaction, systemId, change);
      await insertRecords(transaction, systemId, records, jobId);
      for (const { check, photo } of photos) await keepPhoto(transaction, jobId, check, photo);
      for (const log of logs) {
        const { id: intakeId } = await beginIntake(
          transaction,
          { id: jobId, system, systemId, systemVersion: 1 },
          // Two logs of one name are two files.
          { ...log, modified: logs.indexOf(log) },
        );
        let at = 0;
        for await (const part of createReadStream(log.path, { highWaterMark: PART_BYTES })) {
          const taken = await takePart(transaction, intakeId, at, part as Buffer);
          if (typeof taken === 'string') throw new Refusal(500, 'The bundle could not be stored. Try again.');
          at = taken.received;
        }
      }
      return jobId;
    });
    return { id, left };
  } finally {
    await clearPath(folder);
  }
}
