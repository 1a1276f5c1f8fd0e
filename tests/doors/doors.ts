/**
 * Hostile requests to every route of the running application, made from the table of doors: `BASE_URL=… DATABASE_URL=… node
 * .build/doors.cjs [minutes] [seed]`. Asserts of each: a status below 500, a sentence where it is refused, an answer within two seconds,
 * nothing half stored, and a server whose health answers within a second all the while.
 */

import { readFileSync, writeFileSync } from 'node:fs';
import { request as send } from 'node:http';
import { join } from 'node:path';
import fc from 'fast-check';
import { sql } from 'kysely';
import { writeBundle, zipBundle } from '@/core/bundle/write';
import { demoSite } from '@/core/simulate/demo';
import { type Door, DOORS } from '@/server/doors';
import { openStore, type Store } from '@/store/database';
import { HOSTILE, hostile } from './arbitrary';

const base = new URL(process.env.BASE_URL ?? 'http://127.0.0.1:3000');
const databaseUrl = process.env.DATABASE_URL!;
const minutes = Number(process.argv[2] ?? 0.5);
const seed = Number(process.argv[3] ?? 20261126);

/** How long an answer may take, and health, ms. */
const PATIENCE = 2000;
const HEALTH = 1000;

interface Asked {
  method: string;
  path: string;
  headers?: Record<string, string>;
  body?: Buffer | undefined;
}
interface Answer {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  text: string;
  ms: number;
}

/** As it is, without what a client would mend. */
function ask({ method, path, headers = {}, body }: Asked): Promise<Answer> {
  const started = performance.now();
  return new Promise((resolve, reject) => {
    const request = send(
      {
        host: base.hostname,
        port: base.port,
        method,
        path,
        headers: {
          host: base.host,
          origin: base.origin,
          ...(body ? { 'content-length': String(body.length) } : {}),
          ...headers,
        },
      },
      (response) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('error', reject);
        response.on('end', () =>
          resolve({
            status: response.statusCode ?? 0,
            headers: response.headers,
            text: Buffer.concat(parts).toString('latin1'),
            ms: performance.now() - started,
          }),
        );
      },
    );
    request.setTimeout(20_000, () => request.destroy(new Error('No answer within 20 s.')));
    request.on('error', reject);
    request.end(body);
  });
}

/** What is wrong with an answer; null when nothing is. */
function fault(asked: Asked, { status, headers, text, ms }: Answer): string | null {
  if (status >= 500) return `status ${status}: ${text.slice(0, 200)}`;
  if (ms > PATIENCE) return `took ${Math.round(ms)} ms`;
  if (headers['x-content-type-options'] !== 'nosniff' || !headers['content-security-policy'])
    return 'no security headers';
  if (/\n\s+at .+:\d+:\d+|node_modules|select .+ from|SQLSTATE/i.test(text) && status >= 400)
    return `tells of the inside: ${text.slice(0, 200)}`;
  if (status < 400 || !asked.path.startsWith('/api/') || asked.method === 'HEAD') return null;
  try {
    const body = JSON.parse(Buffer.from(text, 'latin1').toString()) as {
      error?: string;
      version?: number;
      left?: string[];
      id?: string;
    };
    const sentence = body.error ?? body.left?.[0];
    if (status === 409 && (body.version !== undefined || body.id !== undefined)) return null;
    if (!sentence || !/^[A-Z“"(\p{L}].*[.?!”)]$/su.test(sentence))
      return `no sentence: ${text.slice(0, 200)}`;
    if (/invalid_|ZodError|Expected|expected string|undefined|\[object/.test(sentence))
      return `raw: ${sentence}`;
    return null;
  } catch {
    return `no JSON: ${text.slice(0, 120)}`;
  }
}

/** Things that are there, for ids to name. */
interface There {
  job: string;
  system: string;
  recording: string;
  photo: string;
  intake: string;
  change: string;
}

/** Addresses cannot carry lone halves of a pair. */
const wellFormed = (text: string): string => text.replace(/\p{Cs}/gu, '?');

const NOBODY = '00000000-0000-4000-8000-000000000000';

async function makeThings(store: Store): Promise<There> {
  const { job, system } = demoSite('harbour-office');
  const zip = zipBundle(
    writeBundle('doors', { ...job, title: 'Behind the doors' }, system, [
      {
        path: 'logs/monitor.csv',
        bytes: Buffer.from(
          'time,battery voltage (V),battery current (A)\n' +
            Array.from(
              { length: 200 },
              (_, i) =>
                `${new Date(Date.UTC(2026, 8, 1) + i * 60_000).toISOString()},25.${i % 10},${(i % 5) - 2}\n`,
            ).join(''),
        ),
        description: { device: 'monitor' },
      },
    ]),
  );
  const json = async (asked: Asked) => {
    const answer = await ask(asked);
    if (answer.status >= 300)
      throw new Error(`${asked.method} ${asked.path}: ${answer.status} ${answer.text}`);
    return JSON.parse(answer.text) as { id: string; change?: { id: string } };
  };
  const post = (path: string, value: unknown) =>
    json({
      method: 'POST',
      path,
      headers: { 'content-type': 'application/json' },
      body: Buffer.from(JSON.stringify(value)),
    });
  const { id } = await json({
    method: 'POST',
    path: '/api/bundles',
    headers: { 'content-type': 'application/zip' },
    body: Buffer.from(zip),
  });
  const row = await store
    .selectFrom('jobs')
    .select('system_id')
    .where('id', '=', id)
    .executeTakeFirstOrThrow();
  for (let i = 0; i < 200; i++) {
    const found = await store
      .selectFrom('recordings')
      .select('id')
      .where('job_id', '=', id)
      .executeTakeFirst();
    if (found) {
      const png = Buffer.from(
        'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
        'base64',
      );
      const photo = await json({
        method: 'POST',
        path: `/api/jobs/${id}/photos?item=joints`,
        headers: { 'content-type': 'image/png' },
        body: png,
      });
      const intake = await post(`/api/jobs/${id}/intakes`, {
        fileName: 'half.csv',
        size: 100,
        description: { device: 'monitor' },
      });
      const change = await post(`/api/systems/${row.system_id}/changes`, {
        base: 1,
        path: 'monitor.detectionMinutes',
        after: 4,
        why: 'Try.',
        on: '2026-10-27',
      });
      return {
        job: id,
        system: row.system_id,
        recording: found.id,
        photo: photo.id,
        intake: intake.id,
        change: change.change!.id,
      };
    }
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error('No worker took the log in.');
}

const IDS: Record<string, keyof There> = {
  jobs: 'job',
  systems: 'system',
  recordings: 'recording',
  photos: 'photo',
  intakes: 'intake',
};

/** A path with an id that is there, mostly; or with what is none. */
const pathOf = (pattern: string, there: There): fc.Arbitrary<string> => {
  const kind = IDS[pattern.split('/')[2]!] ?? 'job';
  const id = (own: string) =>
    fc.oneof(
      { weight: 8, arbitrary: fc.constant(own) },
      { weight: 1, arbitrary: fc.constantFrom(NOBODY, ...Object.values(there)) },
      {
        weight: 2,
        arbitrary: fc
          .constantFrom(...HOSTILE.filter((one) => typeof one === 'string' && one !== ''))
          .map((one) => encodeURIComponent(wellFormed(String(one)).slice(0, 100)).replace(/\./g, '%2e')),
      },
    );
  return fc
    .tuple(id(there[kind]), id(there.change))
    .map(([one, other]) => pattern.replace('[id]', one).replace('[change]', other));
};

const queryOf = (door: Door): fc.Arbitrary<string> =>
  door.query
    ? hostile(door.query, KNOWN).map((value) => {
        if (typeof value !== 'object' || value === null) return '?x=%00';
        const pairs = Object.entries(value).flatMap(([key, one]) =>
          one === undefined
            ? []
            : [
                [
                  wellFormed(key.slice(0, 40)),
                  wellFormed(typeof one === 'object' ? 'x' : String(one).slice(0, 600)),
                ],
              ],
        );
        return `?${new URLSearchParams(pairs as [string, string][]).toString()}`;
      })
    : fc.constantFrom('', '', '', '?x=1', '?%5B%5D=1');

/** What only code decides. */
const KNOWN = new Map<string, fc.Arbitrary<unknown>>([
  ['timeZone', fc.constantFrom('Europe/Rome', 'UTC')],
  [
    'path',
    fc.constantFrom('monitor.chargedV', 'sources.0.profile.floatV', 'bank.capacityAh', 'loads.0.cutoffV'),
  ],
  ['openedAt', fc.constantFrom('2026-10-19T08:30:00Z', '2026-10-19')],
  ['search', fc.constantFrom('pier', '%', '_', "o'clock", 'x')],
  ['channels', fc.constantFrom('battery_voltage', 'battery_voltage,battery_current', 'constructor')],
  ['channel', fc.constantFrom('time', 'battery_voltage', 'constructor', '__proto__', 'toString')],
  ['base', fc.constantFrom(1, 2, 3)],
]);

const bodyOf = (door: Door): fc.Arbitrary<{ body?: Buffer; type: string }> => {
  const noise = fc.uint8Array({ maxLength: 400 }).map((bytes) => Buffer.from(bytes));
  if (door.json) {
    const written = hostile(door.json, KNOWN).map((value) => Buffer.from(JSON.stringify(value) ?? ''));
    const odd = fc.oneof(
      noise,
      fc.constantFrom(
        Buffer.from('['.repeat(200_000)),
        Buffer.from(`{"complaints":[${'"undercharging",'.repeat(60_000)}"undercharging"]}`),
        Buffer.from('{"a":1'),
        Buffer.from('nul\0l'),
        Buffer.alloc(0),
        Buffer.alloc(3 << 20, 0x20),
      ),
    );
    return fc.record({
      body: fc.oneof({ weight: 12, arbitrary: written }, { weight: 1, arbitrary: odd }),
      type: fc.oneof(
        { weight: 15, arbitrary: fc.constant('application/json') },
        {
          weight: 1,
          arbitrary: fc.constantFrom('text/plain', 'multipart/form-data', 'application/octet-stream', ''),
        },
      ),
    });
  }
  if (door.bytes || door.file) {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg"><g id="a">${'<use href="#a"/>'.repeat(20)}</g></svg>`;
    return fc.record({
      body: fc.oneof(
        noise,
        fc.constantFrom(
          Buffer.from(svg),
          Buffer.from('PK\x03\x04nothing of the kind', 'latin1'),
          Buffer.from(zipBundle(new Map([['../x', Buffer.from('y')]]))),
          Buffer.from(zipBundle(new Map([['datapackage.json', Buffer.from('['.repeat(100_000))]]))),
          Buffer.concat([Buffer.from([0xff, 0xd8, 0xff, 0xe0]), Buffer.alloc(5000, 7)]),
          Buffer.alloc(0),
          Buffer.alloc(5 << 20),
        ),
      ),
      type: fc.constantFrom(
        'application/octet-stream',
        'application/octet-stream',
        'image/png',
        'text/plain',
      ),
    });
  }
  return fc.record({
    body: fc.constantFrom(undefined, undefined, Buffer.from('{}')),
    type: fc.constant('application/json'),
  }) as fc.Arbitrary<{
    body?: Buffer;
    type: string;
  }>;
};

/** Where a request says that it comes from. */
const origins: fc.Arbitrary<Record<string, string>> = fc.oneof(
  { weight: 20, arbitrary: fc.constant({}) },
  {
    weight: 1,
    arbitrary: fc.constantFrom<Record<string, string>[]>(
      { origin: 'https://elsewhere.example' },
      { origin: 'null' },
      { 'sec-fetch-site': 'cross-site' },
      { host: 'elsewhere.example' },
      { host: `elsewhere.example:${base.port}`, origin: `http://elsewhere.example:${base.port}` },
    ),
  },
);

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
  const each = (minutes * 60_000) / (names.length + 2);
  const run = async (name: string, arbitrary: fc.Arbitrary<Asked>) => {
    let last = '';
    try {
      await fc.assert(
        fc.asyncProperty(arbitrary, async (one) => {
          asked++;
          const answer = await ask(one);
          const wrong = fault(one, answer);
          if (!wrong) return;
          last = `${wrong}\n    ${one.method} ${one.path.slice(0, 300)} ${JSON.stringify(one.headers)} ${one.body?.subarray(0, 400).toString('latin1') ?? ''}`;
          throw new Error(wrong);
        }),
        {
          seed,
          numRuns: 100_000,
          interruptAfterTimeLimit: each,
          markInterruptAsFailure: false,
          endOnFailure: false,
        },
      );
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
        .tuple(pathOf(pattern, there), queryOf(door), bodyOf(door), origins)
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
  await run(
    'pages, and addresses that are none',
    fc.record({
      method: fc.constantFrom('GET', 'GET', 'HEAD', 'POST'),
      path: fc.constantFrom(
        '/',
        '/?search=%25&complaint=nothing&after=x',
        '/?search=x&search=y',
        '/systems?after=nobody',
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
