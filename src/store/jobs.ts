/** Systems and jobs. */

import { sql } from 'kysely';
import type { Job, System } from '@/core/system/schema';
import type { Store } from './database';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
export const isId = (text: string): boolean => UUID.test(text);

export interface StoredJob {
  id: string;
  systemId: string;
  job: Job;
  system: System;
  /** Versions of the two descriptions. */
  jobVersion: number;
  systemVersion: number;
}

export async function insertSystem(
  store: Store,
  system: System,
  slug: string | null = null,
): Promise<string> {
  const { id } = await store
    .insertInto('systems')
    .values({ slug, description: JSON.stringify(system) })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

export async function insertJob(store: Store, systemId: string, job: Job): Promise<string> {
  const { id } = await store
    .insertInto('jobs')
    .values({ system_id: systemId, details: JSON.stringify(job), opened_at: job.openedAt })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

export async function systemWithSlug(store: Store, slug: string): Promise<string | null> {
  const row = await store.selectFrom('systems').select('id').where('slug', '=', slug).executeTakeFirst();
  return row?.id ?? null;
}

/** Outcome of saving a description: the new version, or what somebody else has saved meanwhile. */
export type Saved<T> = { version: number } | { conflict: { version: number; value: T } } | null;

/** Saves a system if nobody has saved it since version `base`; null when there is no such system. */
export async function saveSystem(
  store: Store,
  id: string,
  base: number,
  system: System,
): Promise<Saved<System>> {
  if (!isId(id)) return null;
  const saved = await store
    .updateTable('systems')
    .set(({ eb }) => ({
      description: JSON.stringify(system),
      version: eb('version', '+', 1),
      changed_at: sql<Date>`now()`,
    }))
    .where('id', '=', id)
    .where('version', '=', base)
    .returning('version')
    .executeTakeFirst();
  if (saved) return saved;
  const row = await store
    .selectFrom('systems')
    .select(['version', 'description'])
    .where('id', '=', id)
    .executeTakeFirst();
  return row ? { conflict: { version: row.version, value: row.description } } : null;
}

/** Saves a job if nobody has saved it since version `base`; null when there is no such job. */
export async function saveJob(store: Store, id: string, base: number, job: Job): Promise<Saved<Job>> {
  if (!isId(id)) return null;
  const saved = await store
    .updateTable('jobs')
    .set(({ eb }) => ({
      details: JSON.stringify(job),
      opened_at: job.openedAt,
      version: eb('version', '+', 1),
      changed_at: sql<Date>`now()`,
    }))
    .where('id', '=', id)
    .where('version', '=', base)
    .where('removed_at', 'is', null)
    .returning('version')
    .executeTakeFirst();
  if (saved) return saved;
  const row = await store
    .selectFrom('jobs')
    .select(['version', 'details'])
    .where('id', '=', id)
    .where('removed_at', 'is', null)
    .executeTakeFirst();
  return row ? { conflict: { version: row.version, value: row.details } } : null;
}

/** All systems by name; a system whose jobs were all removed is left out. */
export async function listSystems(store: Store): Promise<{ id: string; system: System }[]> {
  const rows = await store
    .selectFrom('systems')
    .select(['id', 'description'])
    .where(({ exists, selectFrom }) =>
      exists(
        selectFrom('jobs')
          .select('jobs.id')
          .whereRef('jobs.system_id', '=', 'systems.id')
          .where('jobs.removed_at', 'is', null),
      ),
    )
    .execute();
  return rows
    .map(({ id, description }) => ({ id, system: description }))
    .sort((a, b) => a.system.name.localeCompare(b.system.name));
}

export async function findSystem(
  store: Store,
  id: string,
): Promise<{ system: System; version: number } | null> {
  if (!isId(id)) return null;
  const row = await store
    .selectFrom('systems')
    .select(['description', 'version'])
    .where('id', '=', id)
    .executeTakeFirst();
  return row ? { system: row.description, version: row.version } : null;
}

/** A job with its system; null when there is none with this id, it was removed, or the id is no id. */
export async function findJob(store: Store, id: string): Promise<StoredJob | null> {
  if (!isId(id)) return null;
  const row = await store
    .selectFrom('jobs')
    .innerJoin('systems', 'systems.id', 'jobs.system_id')
    .select([
      'jobs.id',
      'jobs.system_id',
      'jobs.details',
      'jobs.version as job_version',
      'systems.description',
      'systems.version as system_version',
    ])
    .where('jobs.id', '=', id)
    .where('jobs.removed_at', 'is', null)
    .executeTakeFirst();
  return row
    ? {
        id: row.id,
        systemId: row.system_id,
        job: row.details,
        system: row.description,
        jobVersion: row.job_version,
        systemVersion: row.system_version,
      }
    : null;
}

export interface JobRow extends StoredJob {
  recordings: number;
}

/** All jobs, the latest opened first. */
export async function listJobs(store: Store): Promise<JobRow[]> {
  const rows = await store
    .selectFrom('jobs')
    .innerJoin('systems', 'systems.id', 'jobs.system_id')
    .select(({ selectFrom }) => [
      'jobs.id',
      'jobs.system_id',
      'jobs.details',
      'jobs.version as job_version',
      'systems.description',
      'systems.version as system_version',
      selectFrom('recordings')
        .whereRef('recordings.job_id', '=', 'jobs.id')
        .where('recordings.removed_at', 'is', null)
        .select(sql<number>`count(*)::integer`.as('n'))
        .as('recordings'),
    ])
    .where('jobs.removed_at', 'is', null)
    .orderBy('jobs.opened_at', 'desc')
    .orderBy('jobs.id')
    .execute();
  return rows.map((row) => ({
    id: row.id,
    systemId: row.system_id,
    job: row.details,
    system: row.description,
    jobVersion: row.job_version,
    systemVersion: row.system_version,
    recordings: row.recordings ?? 0,
  }));
}

/** Takes a job off the list, or puts it back. @returns false when there is no such job */
export async function setJobRemoved(store: Store, id: string, removed: boolean): Promise<boolean> {
  if (!isId(id)) return false;
  const { numUpdatedRows } = await store
    .updateTable('jobs')
    .set({ removed_at: removed ? sql<Date>`now()` : null })
    .where('id', '=', id)
    .executeTakeFirst();
  return numUpdatedRows > 0n;
}

/** Deletes jobs that were removed more than this many days ago, with all that belongs to them. */
export async function clearRemovedJobs(store: Store, days: number): Promise<void> {
  await store
    .deleteFrom('jobs')
    .where('removed_at', '<', sql<Date>`now() - make_interval(days => ${days})`)
    .execute();
}
