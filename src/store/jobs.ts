/** Systems and jobs. */

import { sql } from 'kysely';
import type { Job, System } from '@/core/system/schema';
import type { Store } from './database';
import { isId } from './id';
import { haltIntakes, resumeIntakes } from './intakes';

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

/** Jobs on a system that were not removed, the latest first. */
export async function jobsOn(store: Store, systemId: string): Promise<{ id: string; title: string }[]> {
  if (!isId(systemId)) return [];
  return store
    .selectFrom('jobs')
    .select(['id', 'title'])
    .where('system_id', '=', systemId)
    .where('removed_at', 'is', null)
    .orderBy('opened_at', 'desc')
    .limit(100)
    .execute();
}

/** What the checklists of the latest job on a system have found; undefined where nobody looked. */
export async function latestChecks(store: Store, systemId: string): Promise<Job['checks']> {
  if (!isId(systemId)) return undefined;
  const row = await store
    .selectFrom('jobs')
    .select('details')
    .where('system_id', '=', systemId)
    .where('removed_at', 'is', null)
    .orderBy('opened_at', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row?.details.checks;
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

/** Takes a job off the list with its logs on their way in, or puts it back with them. @returns false when there is no such job */
export async function setJobRemoved(store: Store, id: string, removed: boolean): Promise<boolean> {
  if (!isId(id)) return false;
  return store.transaction().execute(async (transaction) => {
    const { numUpdatedRows } = await transaction
      .updateTable('jobs')
      .set({ removed_at: removed ? sql<Date>`now()` : null })
      .where('id', '=', id)
      .where('removed_at', removed ? 'is' : 'is not', null)
      .executeTakeFirst();
    if (numUpdatedRows > 0n) await (removed ? haltIntakes : resumeIntakes)(transaction, id);
    else if (!(await transaction.selectFrom('jobs').select('id').where('id', '=', id).executeTakeFirst()))
      return false;
    return true;
  });
}

/** Deletes what was removed more than this many days ago: jobs with all that belongs to them, recordings, photos. */
export async function clearRemoved(store: Store, days: number): Promise<void> {
  for (const table of ['jobs', 'recordings', 'photos'] as const)
    await store
      .deleteFrom(table)
      .where('removed_at', '<', sql<Date>`now() - make_interval(days => ${days})`)
      .execute();
  // A system is there for its jobs.
  await store
    .deleteFrom('systems')
    .where('slug', 'is', null)
    .where(({ not, exists, selectFrom }) =>
      not(exists(selectFrom('jobs').select('jobs.id').whereRef('jobs.system_id', '=', 'systems.id'))),
    )
    .where('created_at', '<', sql<Date>`now() - make_interval(days => ${days})`)
    .execute();
}
