/** What the plan of visits is made from: every system that has a job, with what is kept of it and its last days. */

import { sql } from 'kysely';
import { noRecords, type SystemRecords } from '@/core/records/records';
import type { PlanFacts } from '@/core/plan/due';
import type { Store } from './database';

/** More systems than these one plan does not hold. */
export const MOST_PLANNED = 5000;

export interface PlannedSystem extends PlanFacts {
  id: string;
  /** The latest of its jobs. */
  jobId: string;
}

/** By name. @param only one system alone */
export async function plannedSystems(store: Store, only?: string): Promise<PlannedSystem[]> {
  const rows = await store
    .selectFrom('systems')
    .innerJoinLateral(
      (from) =>
        from
          .selectFrom('jobs')
          .select(['jobs.id as job_id', sql<string>`to_char(opened_at, 'YYYY-MM-DD')`.as('opened_on')])
          .whereRef('jobs.system_id', '=', 'systems.id')
          .where('jobs.removed_at', 'is', null)
          .orderBy('opened_at', 'desc')
          .limit(1)
          .as('latest'),
      (join) => join.onTrue(),
    )
    .select(({ selectFrom }) => [
      'systems.id',
      'systems.description',
      'latest.job_id',
      'latest.opened_on',
      selectFrom('setting_changes')
        .whereRef('setting_changes.system_id', '=', 'systems.id')
        .select(sql<string | null>`max(changed_on)::text`.as('on'))
        .as('changed_on'),
      selectFrom('recordings')
        .innerJoin('jobs as own', 'own.id', 'recordings.job_id')
        .whereRef('own.system_id', '=', 'systems.id')
        .where('recordings.removed_at', 'is', null)
        .select(
          sql<
            string | null
          >`to_char(to_timestamp(max(recordings.to_ms) / 1000.0) at time zone 'UTC', 'YYYY-MM-DD')`.as('to'),
        )
        .as('logged_to'),
    ])
    .$if(only !== undefined, (query) => query.where('systems.id', '=', only!))
    .orderBy('systems.name')
    .limit(MOST_PLANNED)
    .execute();
  const records = await recordsOf(
    store,
    rows.map((one) => one.id),
  );
  return rows.map((one) => ({
    id: one.id,
    jobId: one.job_id,
    system: one.description,
    records: records.get(one.id) ?? noRecords(),
    openedOn: one.opened_on,
    changedOn: one.changed_on,
    loggedTo: one.logged_to,
  }));
}

async function recordsOf(store: Store, systems: readonly string[]): Promise<Map<string, SystemRecords>> {
  const all = new Map<string, SystemRecords>();
  if (systems.length === 0) return all;
  const rows = await store
    .selectFrom('system_records')
    .select(['system_id', 'kind', 'record'])
    .where('system_id', 'in', systems)
    .where('removed_at', 'is', null)
    .orderBy(sql`record ->> 'on'`)
    .orderBy('created_at')
    .execute();
  for (const { system_id: id, kind, record } of rows) {
    const own = all.get(id) ?? noRecords();
    (own[kind] as unknown[]).push(record);
    all.set(id, own);
  }
  return all;
}
