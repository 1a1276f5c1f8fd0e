/**
 * Hostile requests to every route of the running application, made from the table of doors: `BASE_URL=… DATABASE_URL=… node
 * .build/doors.cjs [minutes] [seed]`. Asserts of each: a status below 500, a sentence where it is refused, an answer within two seconds,
 * nothing half stored, and a server whose health answers within a second all the while.
 */

import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { sql } from 'kysely';
import { type Door, DOORS, PAGES } from '@/server/doors';
import { openStore, type Store } from '@/store/database';
import { type Asked, ask, fault } from './asking';
import { bodyOf, NOBODY, origins, pathOf, queryOf } from './requests';
import { makeThings } from './things';

const databaseUrl = process.env.DATABASE_URL!;
const minutes = Number(process.argv[2] ?? 0.5);
const seed = Number(process.argv[3] ?? 20261126);

/** How long health may take, ms. */
const HEALTH = 1000;

/** Requests to a door between two looks at the time. */
const BATCH = 20;

/** Most memory that a server may ever have held, MB. */
const MOST_MB = 1000;

/** Of the processes that WEB_PID and WORKER_PID name. */
function memoryFault(): string | null {
  for (const name of ['WEB_PID', 'WORKER_PID']) {
    const pid = process.env[name];
    if (!pid) continue;
    const peak = Number(/VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1024;
    console.log(`  ${name}: at most ${Math.round(peak)} MB`);
    if (!(peak < MOST_MB)) return `${name} has held ${Math.round(peak)} MB`;
  }
  return null;
}

/** What the database must never hold, as a sentence each. */
async function halves(store: Store): Promise<string[]> {
  const checks = {
    'a system without a job': sql`select 1 from systems s where s.slug is null and not exists (select 1 from jobs j where j.system_id = s.id)`,
    'parts without their file': sql`select 1 from intake_parts p join intakes i on i.id = p.intake_id where i.state in ('done', 'failed')`,
    'a recording without samples': sql`select 1 from recordings r where not exists (select 1 from recording_chunks c where c.recording_id = r.id and c.channel = 'time')`,
    'a text with what nobody can see': sql`select 1 from jobs where details::text ~ '\\\\u0000|\\\\u202e|\\\\ud800' union all select 1 from systems where description::text ~ '\\\\u0000|\\\\u202e'`,
    'an own prototype': sql`select 1 from systems where description::text ~ '"(__proto__|constructor)":' union all select 1 from jobs where details::text ~ '"(__proto__|constructor)":'`,
  };
  const found: string[] = [];
  for (const [what, check] of Object.entries(checks))
    if ((await check.execute(store)).rows.length > 0) found.push(what);
  return found;
}

async function main(): Promise<void> {
  const store = openStore(databaseUrl);
  const faults: string[] = [];
  const results: { name: string; fault: string | null }[] = [];
  let asked = 0;
  const there = await makeThings(store);
  // Each page once before anything is timed: its code is loaded with the first visit.
  for (const path of Object.keys(PAGES)) await ask({ method: 'GET', path });
  let slowest = 0;
  const health = setInterval(() => {
    ask({ method: 'GET', path: '/api/health' }).then(
      ({ status, ms }) => {
        slowest = Math.max(slowest, ms);
        if (status !== 200) faults.push(`health answers ${status}`);
      },
      (error: Error) => faults.push(`health: ${error.message}`),
    );
  }, 250);

  const names = Object.keys(DOORS);
  const each = (minutes * 60_000) / (names.length + Object.keys(PAGES).length + 2);
  const run = async (name: string, arbitrary: fc.Arbitrary<Asked>) => {
    let last = '';
    const answered = fc.asyncProperty(arbitrary, async (one) => {
      asked++;
      const answer = await ask(one);
      const wrong = fault(one, answer);
      if (!wrong) return;
      last = `${wrong}\n    ${one.method} ${one.path.slice(0, 300)} ${JSON.stringify(one.headers)} ${one.body?.subarray(0, 400).toString('latin1') ?? ''}`;
      throw new Error(wrong);
    });
    try {
      // In batches, and always one: a slow first answer leaves a door asked nothing under a time limit of the library's own.
      const until = performance.now() + each;
      let batch = 0;
      do await fc.assert(answered, { seed: seed + batch++, numRuns: BATCH });
      while (performance.now() < until);
    } catch (error) {
      last ||= (error instanceof Error ? (error.stack ?? error.message) : String(error)).slice(0, 1500);
    }
    results.push({ name, fault: last || null });
    console.log(`  ${last ? '✗' : '✓'} ${name}${last ? `\n${last}` : ''}`);
  };

  for (const name of names) {
    const [method, pattern] = name.split(' ') as [string, string];
    const door: Door = (DOORS as Record<string, Door>)[name]!;
    await run(
      name,
      fc
        .tuple(pathOf(pattern, there), queryOf(door.query), bodyOf(door), origins)
        .map(([path, query, { body, type }, from]) => ({
          method,
          // One that sends much while its address is refused is cut off, and hears nothing.
          path: (path + query).slice(0, body && body.length > 1e6 ? 7000 : 30_000),
          headers: { ...(body && type ? { 'content-type': type } : {}), ...from },
          body: method === 'GET' ? undefined : body,
        })),
    );
  }
  await run(
    'methods that a door does not have',
    fc.record({
      method: fc.constantFrom('PATCH', 'OPTIONS', 'HEAD', 'PUT', 'DELETE', 'POST'),
      path: fc.constantFrom(...names.map((name) => name.split(' ')[1]!.replace(/\[\w+\]/g, NOBODY))),
    }),
  );
  for (const [path, query] of Object.entries(PAGES))
    await run(
      `page ${path}`,
      queryOf(query).map((asked) => ({ method: 'GET', path: (path + asked).slice(0, 7000) })),
    );
  await run(
    'pages, and addresses that are none',
    fc.record({
      method: fc.constantFrom('GET', 'GET', 'HEAD', 'POST'),
      path: fc.constantFrom(
        '/',
        '/?search=x&search=y',
        '/jobs/new?system=nobody',
        `/jobs/${there.job}/take-in`,
        `/jobs/${there.job}/logs`,
        `/jobs/${there.job}/constructor`,
        `/jobs/${NOBODY}/logs`,
        '/jobs/__proto__',
        '/%E0%A4%A',
        '/%00',
        '//elsewhere.example/',
        '/api/nothing',
        '/_next/image?url=http://127.0.0.1:1/&w=64&q=75',
        '/_next/static/..%2f..%2fpackage.json',
        '/calculators/constructor',
      ),
    }),
  );
  clearInterval(health);
  if (slowest > HEALTH) faults.push(`health took ${Math.round(slowest)} ms`);
  results.push({
    name: 'health all the while',
    fault: faults.length > 0 ? faults.slice(0, 5).join('; ') : null,
  });
  results.push({ name: 'memory of the servers', fault: memoryFault() });
  const left = await halves(store);
  results.push({ name: 'nothing half stored', fault: left.length > 0 ? left.join('; ') : null });
  await store.destroy();

  const failed = results.filter((one) => one.fault !== null);
  for (const one of results.slice(-3))
    console.log(`  ${one.fault ? '✗' : '✓'} ${one.name}${one.fault ? `: ${one.fault}` : ''}`);
  console.log(`${asked} requests, seed ${seed}; health at the slowest ${Math.round(slowest)} ms`);
  writeFileSync(
    join(process.cwd(), '.build', 'doors.json'),
    JSON.stringify({ passed: results.length - failed.length, failed: failed.length }),
  );
  process.exit(failed.length === 0 ? 0 : 1);
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
