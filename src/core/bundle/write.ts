/** Writes a job as a bundle. */

import { strToU8, zipSync } from 'fflate';
import type { z } from 'zod';
import { roundsToCsv } from '../hydrometer/csv';
import { noRecords, type SystemRecords } from '../records/records';
import type { Job, System } from '../system/schema';
import { HYDROMETER } from './read';
import type { Change, DataPackage, logDescriptionSchema } from './schema';

export interface LogToWrite {
  path: string;
  bytes: Uint8Array;
  description: z.infer<typeof logDescriptionSchema>;
}

/** Paths within the bundle to their bytes. */
export type WrittenFiles = Map<string, Uint8Array>;

export interface Extras {
  photos?: readonly { path: string; check: string; bytes: Uint8Array }[];
  changes?: readonly Change[];
  records?: SystemRecords;
}

/** @param name short name in small letters, digits and hyphens, as the Data Package format asks for. */
export function writeBundle(
  name: string,
  job: Job,
  system: System,
  logs: readonly LogToWrite[],
  { photos = [], changes = [], records = noRecords() }: Extras = {},
): WrittenFiles {
  const { 'hydrometer-round': rounds, 'capacity-test': capacityTests, visit: visits, done } = records;
  const descriptor: DataPackage = {
    name,
    title: job.title,
    created: job.openedAt,
    resources: [
      ...logs.map(({ path, description }) => ({
        name: path.replace(/^.*\//, '').replace(/\.csv(\.gz)?$/, ''),
        path,
        format: 'csv',
        pazienza: description,
      })),
      ...photos.map(({ path, check }) => ({
        name: path.replace(/^.*\//, '').replace(/\.jpg$/, ''),
        path,
        format: 'jpg',
        mediatype: 'image/jpeg',
        pazienza: { check },
      })),
      ...(rounds.length > 0 ? [{ name: 'hydrometer', path: HYDROMETER, format: 'csv' }] : []),
    ],
    pazienza: {
      format: 1,
      job,
      system,
      ...(changes.length > 0 ? { changes: [...changes] } : {}),
      ...(capacityTests.length > 0 ? { capacityTests: [...capacityTests] } : {}),
      ...(visits.length > 0 ? { visits: [...visits] } : {}),
      ...(done.length > 0 ? { done: [...done] } : {}),
    },
  };
  return new Map([
    ['datapackage.json', strToU8(JSON.stringify(descriptor, null, 2) + '\n')],
    ...[...logs, ...photos].map(({ path, bytes }) => [path, bytes] as const),
    ...(rounds.length > 0 ? [[HYDROMETER, strToU8(roundsToCsv(rounds))] as const] : []),
  ]);
}

export function zipBundle(files: WrittenFiles): Uint8Array {
  return zipSync(Object.fromEntries(files), { mtime: '2000-01-01T00:00:00Z' });
}
