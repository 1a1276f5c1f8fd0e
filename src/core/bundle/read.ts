/** Reads a job bundle from its files, wherever they lie. */

import { strFromU8 } from 'fflate';
import { BadJson, type JsonBounds, parseJson } from '../quantity/json';
import { nameOfPlace } from '../system/placeNames';
import { issuesOf } from '../system/refusals';
import { devicesOf, type Job, type System } from '../system/schema';
import { BadRounds, roundsOfCsv } from '../hydrometer/csv';
import type { Round } from '../hydrometer/round';
import type { SystemRecords } from '../records/records';
import { LogAsks } from '../log/answers';
import { fileInMemory, type LogFile, readLogFile } from '../log/readFile';
import { NotALog } from '../log/sniff';
import { type ZipEntry, zipEntries, type ZipSource } from '../log/tables/zip';
import type { LogDescription, ReadLog as Read } from '../log/takeIn';
import { setClock } from '../log/clock';
import { type Change, type DataPackage, MOST_LOGS, packageSchema } from './schema';

/** What is wrong with a bundle, as a sentence that names file and place. */
export class BundleError extends Error {}

/** A file of a bundle, in memory or on disk. */
export interface BundleFile {
  size: number;
  bytes(): Promise<Uint8Array>;
  /** As a log that can be read. @param name for messages */
  log(name: string): LogFile;
}

/** Paths within the bundle to its files. */
export type BundleFiles = Map<string, BundleFile>;

export interface ReadLog extends Pick<Read, 'series' | 'rows' | 'problemCount' | 'problems'> {
  path: string;
}

export interface BundlePhoto {
  path: string;
  /** Item of the checklists that it belongs to. */
  check: string;
  file: BundleFile;
}

export interface BundleLog {
  path: string;
  description: LogDescription;
  file: BundleFile;
}

/** Everything of a bundle, its logs as they are. */
export interface Described {
  name: string;
  job: Job;
  system: System;
  changes: Change[];
  /** Hydrometer rounds and capacity tests; their ids are only told apart within the bundle. */
  records: SystemRecords;
  photos: BundlePhoto[];
  /** The logs that it brings, not yet read. */
  logs: BundleLog[];
  /** Files that nothing in the description names: they are not taken in. */
  unnamed: string[];
}

export interface Bundle {
  job: Job;
  system: System;
  changes: Change[];
  records: SystemRecords;
  logs: ReadLog[];
}

const DESCRIPTOR = 'datapackage.json';
/** Hydrometer rounds, if there are any. */
export const HYDROMETER = 'hydrometer.csv';
const MOST_ROUNDS_BYTES = 4 * 2 ** 20;
/** What a bundle may hold: files, bytes unpacked, and bytes of its description. */
export const BUNDLE_BOUNDS = { entries: 1000, total: 2 ** 30 };
const MOST_DESCRIPTOR = 4 * 2 ** 20;
const JSON_BOUNDS: JsonBounds = { depth: 24, values: 100_000 };

export const inMemory = (bytes: Uint8Array): BundleFile => ({
  size: bytes.length,
  bytes: async () => bytes,
  log: (name) => fileInMemory(bytes, name),
});

/** Files by their paths; when the description lies in a folder, that folder is taken off. */
export function bundleFiles(entries: Iterable<readonly [string, BundleFile]>): BundleFiles {
  const all = [...entries];
  const descriptor = all
    .map(([path]) => path)
    .filter((path) => path === DESCRIPTOR || path.endsWith(`/${DESCRIPTOR}`))
    .sort((a, b) => a.length - b.length)[0];
  const prefix = descriptor?.slice(0, -DESCRIPTOR.length) ?? '';
  return new Map(
    all.flatMap(([path, file]) =>
      path.startsWith(prefix) ? [[path.slice(prefix.length), file] as const] : [],
    ),
  );
}

/** The entries of a zip, its directory checked. @throws BundleError */
export async function bundleEntries(zip: Uint8Array | ZipSource): Promise<ZipEntry[]> {
  return told(() => zipEntries(zip, BUNDLE_BOUNDS));
}

/** A fault of a file in a bundle is one of the bundle. */
export async function told<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw error instanceof NotALog ? new BundleError(error.message) : error;
  }
}

/** Unpacks a zip in memory. @throws BundleError */
export async function unzipBundle(zip: Uint8Array): Promise<BundleFiles> {
  const files: [string, BundleFile][] = [];
  for (const entry of await bundleEntries(zip))
    files.push([entry.name, inMemory(await told(() => entry.bytes()))]);
  return bundleFiles(files);
}

export async function readDescriptor(files: BundleFiles): Promise<DataPackage> {
  const file = files.get(DESCRIPTOR);
  if (!file)
    throw new BundleError(
      `There is no ${DESCRIPTOR}: a job bundle is a folder or zip with that file at its top.`,
    );
  if (file.size > MOST_DESCRIPTOR)
    throw new BundleError(
      `${DESCRIPTOR} is larger than ${MOST_DESCRIPTOR / 2 ** 20} MB: no job needs so much.`,
    );
  let json: unknown;
  try {
    json = parseJson(strFromU8(await file.bytes()), JSON_BOUNDS);
  } catch (error) {
    if (!(error instanceof BadJson)) throw error;
    throw new BundleError(`${DESCRIPTOR} cannot be read: ${error.message}.`);
  }
  const parsed = packageSchema.safeParse(withoutNulls(json));
  if (!parsed.success) throw new BundleError(`${DESCRIPTOR}, ${placeOf(parsed.error)}`);
  return parsed.data;
}

/** Reads the description alone. @throws BundleError that names the place */
export async function readDescription(files: BundleFiles): Promise<Described> {
  const { name, resources, pazienza } = await readDescriptor(files);
  const photos: BundlePhoto[] = [];
  const logs: BundleLog[] = [];
  const named = new Set([DESCRIPTOR, HYDROMETER]);
  for (const { path: written, dialect, pazienza: description } of resources) {
    const path = files.has(written) ? written : written.replace(/^\.\//, '');
    // A resource that is neither log nor photo is a table for people or for another tool.
    if (!description) continue;
    const file = files.get(path);
    const isLog = 'device' in description;
    if (!file)
      throw new BundleError(
        `The ${isLog ? 'log' : 'photo'} ${path} is named in ${DESCRIPTOR} but is not in the bundle.`,
      );
    named.add(path);
    if (isLog) logs.push({ path, description: { ...description, dialect }, file });
    else photos.push({ path, check: description.check, file });
  }
  const devices = devicesOf(pazienza.system);
  for (const { path, description } of logs)
    if (!devices.some((one) => one.id === description.device))
      throw new BundleError(
        `${DESCRIPTOR}: the log ${path} is said to be of "${description.device}", but the system has only ${devices.map((one) => `"${one.id}"`).join(', ')}.`,
      );
  if (logs.length > MOST_LOGS)
    throw new BundleError(`${DESCRIPTOR} names ${logs.length} logs; a bundle has ${MOST_LOGS} at most.`);
  const unnamed = [...files.keys()].filter((path) => !named.has(path) && !/(^|\/)\./.test(path));
  return {
    name,
    job: pazienza.job,
    system: pazienza.system,
    changes: pazienza.changes ?? [],
    records: {
      'hydrometer-round': await readRounds(files, pazienza.job.openedAt.slice(0, 10)),
      'capacity-test': pazienza.capacityTests ?? [],
      visit: pazienza.visits ?? [],
      done: pazienza.done ?? [],
    },
    photos,
    logs,
    unnamed,
  };
}

/** @param on day of readings without one. @throws BundleError that names the row */
async function readRounds(files: BundleFiles, on: string): Promise<Round[]> {
  const file = files.get(HYDROMETER);
  if (!file) return [];
  if (file.size > MOST_ROUNDS_BYTES)
    throw new BundleError(
      `${HYDROMETER} is larger than ${MOST_ROUNDS_BYTES / 2 ** 20} MB: no bank has so many rounds.`,
    );
  let count = 0;
  try {
    return roundsOfCsv(
      strFromU8(await file.bytes()),
      on,
      () => `00000000-0000-4000-8000-${String(++count).padStart(12, '0')}`,
    );
  } catch (error) {
    if (!(error instanceof BadRounds)) throw error;
    throw new BundleError(`${HYDROMETER}: ${error.message}`);
  }
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

/** Reads one log of a bundle. @throws NotALog */
export function readBundleLog({ path, description, file }: BundleLog, system: System): Promise<Read> {
  const { kind } = devicesOf(system).find((one) => one.id === description.device)!;
  return readLogFile(file.log(path), kind, description, system.timeZone);
}

/** Reads description and logs. @throws BundleError with the file, and where it can the row and column */
export async function readBundle(files: BundleFiles): Promise<Bundle> {
  const { job, system, changes, records, logs: found } = await readDescription(files);
  const logs: ReadLog[] = [];
  for (const log of found)
    try {
      const { series, clock, rows, problemCount, problems } = await readBundleLog(log, system);
      // The zone was minded when it was read.
      const time = setClock(series.time, null, clock);
      logs.push({ path: log.path, series: { ...series, time }, rows, problemCount, problems });
    } catch (error) {
      if (error instanceof NotALog) throw new BundleError(`${log.path}: ${error.message}`);
      throw error;
    }
  return { job, system, changes, records, logs };
}

/** Which logs of a bundle can be taken in, and what of it cannot, a sentence each. A log that only asks something asks when it comes in. */
export async function checkLogs({
  system,
  logs,
  unnamed,
}: Described): Promise<{ readable: BundleLog[]; left: string[] }> {
  const left = unnamed.map(
    (path) => `${path} lies in the bundle, but its description does not say what it is.`,
  );
  const readable: BundleLog[] = [];
  for (const log of logs)
    try {
      await readBundleLog(log, system);
      readable.push(log);
    } catch (error) {
      if (!(error instanceof NotALog)) throw error;
      if (error instanceof LogAsks) readable.push(log);
      else left.push(`${log.path}: ${error.message}`);
    }
  return { readable, left };
}

/** The first thing that a schema found, as "place (name): what". */
function placeOf(error: Parameters<typeof issuesOf>[0]): string {
  const issue = issuesOf(error)[0]!;
  const place = issue.path
    .map((part) => (typeof part === 'number' ? `[${part}]` : `.${String(part)}`))
    .join('')
    .replace(/^\./, '');
  return place === '' ? issue.message : `${place} (${nameOfPlace(issue.path)}): ${issue.message}`;
}
