/** Lists that are searched, filtered and paged by the database: from the last row that was shown on, never by counting rows. */

import { sql } from 'kysely';
import type { Headline } from '@/core/diagnosis/summary';
import type { Complaint, Job, System } from '@/core/system/schema';
import type { Standing } from '@/core/diagnosis/weigh';
import { CURSOR } from './cursor';
import type { Store } from './database';

/** Rows of a page. */
export const PAGE = 25;

export interface Page<Row> {
  rows: Row[];
  /** Where the next page begins; null when this is the last. */
  next: string | null;
}

export interface JobQuery {
  /** Words of the title or of the system's or the customer's name. */
  search?: string | undefined;
  complaint?: Complaint | undefined;
  standing?: Standing | undefined;
  system?: string | undefined;
  /** Days on which it was opened, both included. */
  from?: string | undefined;
  to?: string | undefined;
  after?: string | undefined;
}

export interface JobRow {
  id: string;
  systemId: string;
  job: Job;
  system: System;
  recordings: number;
  /** Null when no cause is possible or better; undefined when the logs were not weighed yet. */
  headline: Headline | null | undefined;
  /** The core that weighed them, and whether the descriptions have stayed as they were then; null when they were not weighed yet. */
  weighed: { core: string; asDescribed: boolean } | null;
}

/** Every sign stands for itself, in whatever case. */
const containing = (words: string): string => `%${words.replace(/[\\%_]/g, '\\$&')}%`;

/** Words that are looked for, each wherever it stands. */
const wordsOf = (search: string): string[] =>
  search
    .split(/\s+/)
    .filter((one) => one !== '')
    .slice(0, 8);

/** The latest opened first. */
export async function listJobs(store: Store, query: JobQuery = {}): Promise<Page<JobRow>> {
  const { search, complaint, standing, system, from, to } = query;
  const after = CURSOR.exec(query.after ?? '');
  const rows = await store
    .selectFrom('jobs')
    .innerJoin('systems', 'systems.id', 'jobs.system_id')
    .leftJoin('analyses', 'analyses.job_id', 'jobs.id')
    .select(({ selectFrom }) => [
      'jobs.id',
      'jobs.system_id',
      'jobs.details',
      'systems.description',
      'analyses.id as analysis',
      'analyses.headline',
      'analyses.core',
      'analyses.described',
      'jobs.version as job_version',
      'systems.version as system_version',
      sql<string>`(extract(epoch from jobs.opened_at) * 1000000)::bigint`.as('opened'),
      selectFrom('recordings')
        .whereRef('recordings.job_id', '=', 'jobs.id')
        .where('recordings.removed_at', 'is', null)
        .select(sql<number>`count(*)::integer`.as('n'))
        .as('recordings'),
    ])
    .where('jobs.removed_at', 'is', null)
    .$if(!!search, (q) =>
      q.where(({ and, eb }) =>
        and(wordsOf(search!).map((one) => eb('jobs.search', 'ilike', containing(one)))),
      ),
    )
    .$if(!!complaint, (q) => q.where(sql<boolean>`jobs.complaints @> ${JSON.stringify([complaint])}::jsonb`))
    .$if(!!standing, (q) => q.where('analyses.standing', '=', standing!))
    .$if(!!system, (q) => q.where('jobs.system_id', '=', system!))
    .$if(!!from, (q) => q.where(sql<boolean>`jobs.opened_at >= ${from}::date`))
    .$if(!!to, (q) => q.where(sql<boolean>`jobs.opened_at < ${to}::date + 1`))
    .$if(after !== null, (q) =>
      q.where(
        sql<boolean>`(jobs.opened_at, jobs.id) < (timestamptz 'epoch' + ${after![1]}::bigint * interval '1 microsecond', ${after![2]}::uuid)`,
      ),
    )
    .orderBy('jobs.opened_at', 'desc')
    .orderBy('jobs.id', 'desc')
    .limit(PAGE + 1)
    .execute();
  const last = rows[PAGE - 1];
  return {
    rows: rows.slice(0, PAGE).map((row) => ({
      id: row.id,
      systemId: row.system_id,
      job: row.details,
      system: row.description,
      recordings: row.recordings ?? 0,
      headline: row.analysis === null ? undefined : row.headline,
      weighed:
        row.core === null || row.described === null
          ? null
          : {
              core: row.core,
              asDescribed: `${row.described}.`.startsWith(`${row.system_version}.${row.job_version}.`),
            },
    })),
    next: rows.length > PAGE && last ? `${last.opened}.${last.id}` : null,
  };
}

export interface SystemQuery {
  /** Words of its name or of its customer's. */
  search?: string | undefined;
  after?: string | undefined;
}

export interface SystemRow {
  id: string;
  system: System;
  /** The latest of its jobs, and how many there are. */
  jobs: { id: string; title: string; openedAt: string }[];
  count: number;
}

/** Jobs that are shown of each system. */
const JOBS_SHOWN = 3;

/** By customer, systems of nobody last, then by name; a system whose jobs were all removed is left out. */
export async function listSystems(
  store: Store,
  { search, after }: SystemQuery = {},
): Promise<Page<SystemRow>> {
  const rows = await store
    .selectFrom('systems')
    .select(['systems.id', 'systems.description'])
    .where(({ exists, selectFrom }) =>
      exists(
        selectFrom('jobs')
          .select('jobs.id')
          .whereRef('jobs.system_id', '=', 'systems.id')
          .where('jobs.removed_at', 'is', null),
      ),
    )
    .$if(!!search, (q) =>
      q.where(({ and, or, eb }) =>
        and(
          wordsOf(search!).map((one) =>
            or([eb('name', 'ilike', containing(one)), eb('owner', 'ilike', containing(one))]),
          ),
        ),
      ),
    )
    .$if(!!after, (q) =>
      q.where(sql<boolean>`(shelf, id) > (select shelf, id from systems where id = ${after}::uuid)`),
    )
    .orderBy('shelf')
    .orderBy('id')
    .limit(PAGE + 1)
    .execute();
  const shown = rows.slice(0, PAGE);
  const jobs = await jobsOf(
    store,
    shown.map((one) => one.id),
  );
  return {
    rows: shown.map(({ id, description }) => {
      const own = jobs.filter((one) => one.system_id === id);
      return {
        id,
        system: description,
        jobs: own.map((one) => ({ id: one.id, title: one.title, openedAt: one.opened_at.toISOString() })),
        count: own[0]?.count ?? 0,
      };
    }),
    next: rows.length > PAGE ? shown[PAGE - 1]!.id : null,
  };
}

async function jobsOf(store: Store, systems: readonly string[]) {
  if (systems.length === 0) return [];
  return store
    .selectFrom((from) =>
      from
        .selectFrom('jobs')
        .select([
          'id',
          'system_id',
          'title',
          'opened_at',
          sql<number>`count(*) over (partition by system_id)::integer`.as('count'),
          sql<number>`row_number() over (partition by system_id order by opened_at desc, id desc)`.as('nth'),
        ])
        .where('system_id', 'in', systems)
        .where('removed_at', 'is', null)
        .as('own'),
    )
    .selectAll()
    .where('nth', '<=', JOBS_SHOWN)
    .orderBy('nth')
    .execute();
}
