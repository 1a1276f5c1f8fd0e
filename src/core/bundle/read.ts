/** Reads a job bundle from its files, wherever they came from. */

import { strFromU8, unzipSync } from 'fflate';
import type { z } from 'zod';
import { devicesOf, type Job, type System } from '../system/schema';
import type { Series } from '../log/channels';
import type { RowProblem } from '../log/readCsv';
import { NotALog } from '../log/sniff';
import { openTable } from '../log/tables/open';
import { type LogDescription, takeInLog } from '../log/takeIn';
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

export interface BundleLog {
  path: string;
  description: LogDescription;
  bytes: Uint8Array;
}

/** Everything of a bundle, its logs as they are. */
export interface Described {
  name: string;
  job: Job;
  system: System;
  changes: Change[];
  photos: BundlePhoto[];
  /** The logs that it brings, not yet read. */
  logs: BundleLog[];
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
  const logs: BundleLog[] = [];
  for (const { path, dialect, pazienza: description } of resources) {
    // A resource that is neither log nor photo is a table for people or for another tool.
    if (!description) continue;
    const bytes = files.get(path) ?? files.get(path.replace(/^\.\//, ''));
    const isLog = 'device' in description;
    if (!bytes)
      throw new BundleError(
        `The ${isLog ? 'log' : 'photo'} ${path} is named in ${DESCRIPTOR} but is not in the bundle.`,
      );
    if (isLog) logs.push({ path, description: { ...description, dialect }, bytes });
    else photos.push({ path, check: description.check, bytes });
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
  const { job, system, logs: found } = readDescription(files);
  const devices = devicesOf(system);
  const logs: ReadLog[] = [];
  for (const { path, description, bytes } of found) {
    const device = devices.find((one) => one.id === description.device);
    if (!device)
      throw new BundleError(
        `${DESCRIPTOR}: the log ${path} is said to be of "${description.device}", but the system has only ${devices.map((one) => `"${one.id}"`).join(', ')}.`,
      );
    try {
      const table = await openTable(bytes, path);
      const { series, rows, problemCount, problems } = takeInLog(
        table,
        device.kind,
        description,
        system.timeZone,
      );
      logs.push({ path, series, rows, problemCount, problems });
    } catch (error) {
      if (error instanceof NotALog) throw new BundleError(`${path}: ${error.message}`);
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
