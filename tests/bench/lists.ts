/** Lists at a hundred thousand jobs: how long a page takes over HTTP and how many bytes it has, whole and narrowed. */

import { sql } from 'kysely';
import { diagnose } from '@/core/diagnosis/diagnose';
import { demoSystem } from '@/core/simulate/demo';
import { migrate, openStore, type Store } from '@/store/database';
import { listJobs } from '@/store/lists';
import { onEmptyDatabase } from '../support/setUp';

export const LISTED = 100_000;
const DATABASE = 'pazienza_bench_lists';
const RUNS = 7;

export interface ListMeasured {
  what: string;
  /** Median over the runs, and the slowest but the first, ms. */
  median: number;
  slowest: number;
  kilobytes: number;
}

/** Systems of five jobs each, with what a job of the demo holds; three in four were weighed, one in a thousand of these is strong. */
async function fill(store: Store): Promise<void> {
  const { job, system } = demoSystem('vaccine-cold-room');
  const result = JSON.stringify(diagnose({ job, system, series: [] }));
  await sql`insert into systems (id, description)
    select md5('s' || n)::uuid, ${JSON.stringify(system)}::jsonb || jsonb_build_object('name', 'Pier ' || n,
      'owner', 'Harbour authority ' || n % 997)
    from generate_series(1, ${sql.lit(LISTED / 5)}) n`.execute(store);
  await sql`insert into jobs (id, system_id, details, opened_at)
    select md5('j' || n)::uuid, md5('s' || (1 + n % ${sql.lit(LISTED / 5)}))::uuid,
      ${JSON.stringify(job)}::jsonb || jsonb_build_object('title', 'Lamp ' || n || ' dies before dawn',
        'complaints', case n % 3 when 0 then '["undercharging"]'::jsonb when 1 then '["drifting-soc"]' else '["premature-cutoff"]' end),
      timestamptz '2020-01-01' + n * interval '30 minutes'
    from generate_series(1, ${sql.lit(LISTED)}) n`.execute(store);
  await sql`insert into analyses (job_id, core, recording_ids, described, result, headline, standing)
    select md5('j' || n)::uuid, 'bench', '{}', '', ${result}::jsonb,
      jsonb_build_object('title', 'Absorption ends too early, on the clock', 'standing', standing), standing
    from (select n, case when n % 1000 = 1 then 'strong' when n % 5 = 1 then 'likely' else 'possible' end as standing
      from generate_series(1, ${sql.lit(LISTED)}) n where n % 4 > 0) weighed`.execute(store);
  await sql`analyze`.execute(store);
}

export const measureLists = (): Promise<ListMeasured[]> =>
  onEmptyDatabase('bench', DATABASE, async (databaseUrl, { serve, freePort }) => {
    const store = openStore(databaseUrl);
    await migrate(store);
    await fill(store);
    // A page far down: the cursor of a job in the middle.
    const middle = await sql<{
      at: string;
    }>`select (extract(epoch from opened_at) * 1000000)::bigint || '.' || id as at
      from jobs order by opened_at desc offset ${sql.lit(LISTED / 2)} limit 1`.execute(store);
    const { rows } = await listJobs(store);
    await store.destroy();
    const web = await serve({ port: await freePort(3400, 'the measured application'), databaseUrl });
    const measured: ListMeasured[] = [];
    for (const [what, path] of [
      ['jobs, first page', '/'],
      ['jobs, in the middle', `/?after=${middle.rows[0]!.at}`],
      ['jobs, of one complaint', '/?complaint=drifting-soc'],
      ['jobs, rare standing', '/?standing=strong'],
      ['jobs, usual standing', '/?standing=possible'],
      ['jobs, search that finds one', '/?search=Lamp+77777+dies'],
      ['jobs, search that finds nothing', '/?search=nobody+has+this'],
      ['jobs, search by customer', '/?search=authority+996'],
      ['jobs, search, complaint and standing', '/?search=pier+19&complaint=undercharging&standing=strong'],
      ['jobs, of a month', '/?from=2022-03-01&to=2022-03-31'],
      ['jobs, of one system', `/?system=${rows[0]!.systemId}`],
      ['systems, first page', '/systems'],
      ['systems, search that finds nothing', '/systems?search=nobody+has+this'],
      ['systems to choose from', '/api/systems?search=pier+199'],
    ] as const) {
      const times: number[] = [];
      let bytes = 0;
      for (let run = 0; run <= RUNS; run++) {
        const started = performance.now();
        // As it is, unpacked: that is what the browser has to read.
        const answer = await fetch(web.address + path, { headers: { 'accept-encoding': 'identity' } });
        bytes = (await answer.arrayBuffer()).byteLength;
        if (answer.status !== 200) throw new Error(`${path} answers ${answer.status}`);
        if (run > 0) times.push(performance.now() - started);
      }
      times.sort((a, b) => a - b);
      measured.push({ what, median: times[RUNS >> 1]!, slowest: times[RUNS - 1]!, kilobytes: bytes / 1000 });
    }
    await web.stop();
    return measured;
  });
