/** Reads a job bundle from its files, wherever they came from. */

import { strFromU8, unzipSync } from 'fflate';
import type { z } from 'zod';
import { devicesOf, type Job, type System } from '../system/schema';
import type { Series } from '../log/channels';
import type { RowProblem } from '../log/readCsv';
import { NotALog } from '../log/sniff';
import { openTable } from '../log/tables/open';
import { takeInLog } from '../log/takeIn';
import { packageSchema, type Change, type DataPackage } from './schema';

/** What is wrong with a bundle, as a sentence that names file and place. */
export class BundleError extends Error {}

/** Paths within the bundle to their bytes. */
export type BundleFiles = Map<string, Uint8Array>;

export interface ReadLog {
  path: string;
  series: Series;
  rows: number;
  problemCount: number;
  problems: RowProblem[];
}

export interface BundlePhoto {
  path: string;
  /** Item of the checklists that it belongs to. */
  check: string;
  bytes: Uint8Array;
}

/** Everything of a bundle but its logs. */
export interface Described {
  name: string;
  job: Job;
  system: System;
  changes: Change[];
  photos: BundlePhoto[];
  /** Paths of the logs that it brings. */
  logs: string[];
}

export interface Bundle {
  job: Job;
  system: System;
  logs: ReadLog[];
}

const DESCRIPTOR = 'datapackage.json';
/** More than this is not unpacked, bytes. */
const LARGEST = 2 ** 31;

/** Unpacks a zip; when everything lies in one folder, that folder is taken off. @throws BundleError */
export function unzipBundle(zip: Uint8Array): BundleFiles {
  let total = 0;
  let entries: Record<string, Uint8Array>;
  try {
    entries = unzipSync(zip, {
      filter: (file) => {
        total += file.originalSize;
        if (total > LARGEST)
          throw new BundleError(
            'The zip unpacks to more than 2 GiB and was not unpacked. Send its logs one by one.',
          );
        return !file.name.endsWith('/') && !file.name.startsWith('__MACOSX/');
      },
    });
  } catch (error) {
    if (error instanceof BundleError) throw error;
    throw new BundleError('The zip cannot be unpacked: it is damaged or no zip. Pack the folder again.');
  }
  const descriptor = Object.keys(entries).find(
    (path) => path === DESCRIPTOR || path.endsWith(`/${DESCRIPTOR}`),
  );
  const prefix = descriptor?.slice(0, -DESCRIPTOR.length) ?? '';
  return new Map(
    Object.entries(entries).flatMap(([path, bytes]) =>
      path.startsWith(prefix) ? [[path.slice(prefix.length), bytes]] : [],
    ),
  );
}

export function readDescriptor(files: BundleFiles): DataPackage {
  const bytes = files.get(DESCRIPTOR);
  if (!bytes)
    throw new BundleError(
      `There is no ${DESCRIPTOR}: a job bundle is a folder or zip with that file at its top.`,
    );
  let json: unknown;
  try {
    json = JSON.parse(strFromU8(bytes));
  } catch (error) {
    throw new BundleError(
      `${DESCRIPTOR} is not valid JSON: ${error instanceof Error ? error.message : String(error)}.`,
    );
  }
  const parsed = packageSchema.safeParse(withoutNulls(json));
  if (!parsed.success) throw new BundleError(`${DESCRIPTOR}: ${firstIssue(parsed.error)}`);
  return parsed.data;
}

/** Reads the description alone. @throws BundleError that names the place */
export function readDescription(files: BundleFiles): Described {
  const { name, resources, pazienza } = readDescriptor(files);
  const photos: BundlePhoto[] = [];
  const logs: string[] = [];
  for (const { path, pazienza: description } of resources) {
    if (!description) continue;
    if ('device' in description) {
      logs.push(path);
      continue;
    }
    const bytes = files.get(path);
    if (!bytes)
      throw new BundleError(`The photo ${path} is named in ${DESCRIPTOR} but is not in the bundle.`);
    photos.push({ path, check: description.check, bytes });
  }
  return { name, job: pazienza.job, system: pazienza.system, changes: pazienza.changes ?? [], photos, logs };
}

/** What another tool wrote as null is not known, which is left out here; for `counted` null is the word for it. */
function withoutNulls(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(withoutNulls);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).flatMap(([key, inner]) =>
      inner === null && !KEPT_NULLS.has(key) ? [] : [[key, withoutNulls(inner)]],
    ),
  );
}
const KEPT_NULLS = new Set(['counted', 'before', 'after']);

/** Reads description and logs. @throws BundleError with the file, and where it can the row and column */
export async function readBundle(files: BundleFiles): Promise<Bundle> {
  const { resources, pazienza } = readDescriptor(files);
  const { job, system } = pazienza;
  const devices = devicesOf(system);
  const logs: ReadLog[] = [];
  for (const resource of resources) {
    const description = resource.pazienza;
    // A resource without a device is a table for people or for another tool.
    if (!description || !('device' in description)) continue;
    const device = devices.find((one) => one.id === description.device);
    if (!device)
      throw new BundleError(
        `${DESCRIPTOR}: the log ${resource.path} is said to be of "${description.device}", but the system has only ${devices.map((one) => `"${one.id}"`).join(', ')}.`,
      );
    const bytes = files.get(resource.path) ?? files.get(resource.path.replace(/^\.\//, ''));
    if (!bytes)
      throw new BundleError(`The log ${resource.path} is named in ${DESCRIPTOR} but is not in the bundle.`);
    try {
      const { series, rows, problemCount, problems } = takeInLog(
        await openTable(bytes, resource.path),
        device.kind,
        { ...description, dialect: resource.dialect },
        system.timeZone,
      );
      logs.push({ path: resource.path, series, rows, problemCount, problems });
    } catch (error) {
      if (error instanceof NotALog) throw new BundleError(`${resource.path}: ${error.message}`);
      throw error;
    }
  }
  return { job, system, logs };
}

/** The first thing that a schema found, as "place: what". */
export function firstIssue(error: z.ZodError): string {
  const issue = error.issues[0]!;
  const place = issue.path
    .map((part) => (typeof part === 'number' ? `[${part}]` : `.${String(part)}`))
    .join('');
  return `${place.replace(/^\./, '')}: ${issue.message}`;
}
