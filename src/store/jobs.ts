/** Systems and jobs. */

import { sql } from 'kysely';
import type { Job, System } from '@/core/system/schema';
import type { Store } from './database';

export interface StoredJob {
  id: string;
  systemId: string;
  job: Job;
  system: System;
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

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** A job with its system; null when there is none with this id, or the id is no id. */
export async function findJob(store: Store, id: string): Promise<StoredJob | null> {
  if (!UUID.test(id)) return null;
  const row = await store
    .selectFrom('jobs')
    .innerJoin('systems', 'systems.id', 'jobs.system_id')
    .select(['jobs.id', 'jobs.system_id', 'jobs.details', 'systems.description'])
    .where('jobs.id', '=', id)
    .executeTakeFirst();
  return row ? { id: row.id, systemId: row.system_id, job: row.details, system: row.description } : null;
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
      'systems.description',
      selectFrom('recordings')
        .whereRef('recordings.job_id', '=', 'jobs.id')
        .select(sql<number>`count(*)::integer`.as('n'))
        .as('recordings'),
    ])
    .orderBy('jobs.opened_at', 'desc')
    .orderBy('jobs.id')
    .execute();
  return rows.map((row) => ({
    id: row.id,
    systemId: row.system_id,
    job: row.details,
    system: row.description,
    recordings: row.recordings ?? 0,
  }));
}

/** Removes a job with its recordings and analyses. */
export async function deleteJob(store: Store, id: string): Promise<void> {
  await store.deleteFrom('jobs').where('id', '=', id).execute();
}
