/**
 * Kills the worker, PostgreSQL and the web server while a log is on its way in, for real, and looks whether the job is whole after:
 * `node .build/kill.cjs`, once the application is built. Starts a cluster of its own; ends only what it has started.
 */

import { type ChildProcess, spawn } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { demoSystem } from '@/core/simulate/demo';
import { type IntakeState, PART_BYTES } from '@/core/log/intake';
import { openStore, migrate, type Store } from '@/store/database';
import { findIntake, openIntake, takePart } from '@/store/intakes';
import { insertJob, insertSystem } from '@/store/jobs';
import { listRecordings } from '@/store/recordings';
import { setUp } from '../support/setUp';

const root = process.cwd();
const DATABASE = 'pazienza_kill';
const ROWS = 400_000;
/** So many rows that reading and storing take long enough to be caught at it. */
const LOG = Buffer.from(
  'time,battery voltage (V),battery current (A),battery temperature (°C)\n' +
    Array.from(
      { length: ROWS },
      (_, i) =>
        `${new Date(Date.UTC(2026, 0, 1) + i * 10_000).toISOString().slice(0, 19)}Z,${(25 + (i % 200) / 100).toFixed(2)},${(i % 17) - 8},${20 + (i % 5)}\n`,
    ).join(''),
);

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

async function main(): Promise<void> {
  const { freePort, serve, startCluster } = await setUp();
  let cluster = await startCluster('kill');
  await cluster.createDatabase(DATABASE);
  await cluster.emptyDatabase(DATABASE);
  const url = cluster.url(DATABASE);
  const store = openStore(url);
  await migrate(store);
  const children: ChildProcess[] = [];
  const results: { name: string; error: string | null }[] = [];

  const worker = (): ChildProcess => {
    const child = spawn(process.execPath, ['.build/admin.cjs', 'work'], {
      cwd: root,
      stdio: ['ignore', 'ignore', process.env.KILL_VERBOSE ? 'inherit' : 'ignore'],
      env: { ...process.env, DATABASE_URL: url },
    });
    children.push(child);
    return child;
  };
  const test = async (name: string, work: () => Promise<void>) => {
    const started = Date.now();
    try {
      await work();
      results.push({ name, error: null });
      console.log(`  ✓ ${name} (${((Date.now() - started) / 1000).toFixed(1)} s)`);
    } catch (error) {
      results.push({ name, error: String(error) });
      console.log(`  ✗ ${name}: ${error instanceof Error ? error.stack : String(error)}`);
    }
    for (const child of children.splice(0)) child.kill('SIGKILL');
  };

  try {
    for (const state of ['reading', 'storing', 'analysing'] as const)
      await test(`a worker killed while ${state}: another takes the log up, and it is there once and whole`, async () => {
        const { jobId, intakeId } = await send(store);
        const first = worker();
        await reached(store, intakeId, state);
        first.kill('SIGKILL');
        // What it had not finished, nobody sees.
        await pause(300);
        const between = await listRecordings(store, jobId);
        if (state !== 'analysing' && between.length > 0) throw new Error('A part of the log could be seen.');
        worker();
        await reached(store, intakeId, 'done');
        await isWhole(store, jobId);
      });

    await test('PostgreSQL killed while a log is stored: after its restart the same worker goes on', async () => {
      const { jobId, intakeId } = await send(store);
      const running = worker();
      await reached(store, intakeId, 'storing');
      cluster.crash();
      await pause(500);
      cluster = await startCluster('kill');
      if (cluster.url(DATABASE) !== url) throw new Error('PostgreSQL came back on another port.');
      await reached(store, intakeId, 'done');
      if (running.exitCode !== null) throw new Error('The worker did not outlive it.');
      await isWhole(store, jobId);
    });

    await test('PostgreSQL and the worker both killed: a new worker finishes', async () => {
      const { jobId, intakeId } = await send(store);
      const first = worker();
      await reached(store, intakeId, 'reading');
      cluster.crash();
      first.kill('SIGKILL');
      cluster = await startCluster('kill');
      worker();
      await reached(store, intakeId, 'done');
      await isWhole(store, jobId);
    });

    await test('the web server killed while a log is sent: what was sent is kept, and the rest goes on', async () => {
      const port = await freePort(3200, 'the application that is killed');
      const jobId = await newJob(store);
      const begin = async () => {
        const web = await serve({ port, databaseUrl: url });
        return { web, at: web.address };
      };
      let { web, at } = await begin();
      const begun = await fetch(`${at}/api/jobs/${jobId}/intakes`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', origin: at },
        body: JSON.stringify({
          fileName: 'log.csv',
          size: LOG.length,
          modified: 1,
          description: { device: 'monitor' },
        }),
      });
      const { id } = (await begun.json()) as { id: string };
      const put = (from: number) =>
        fetch(`${at}/api/intakes/${id}?at=${from}`, {
          method: 'PUT',
          headers: { 'content-type': 'application/octet-stream', origin: at },
          body: LOG.subarray(from, from + PART_BYTES),
        });
      await put(0);
      // The next part is under way when the server dies.
      const cut = put(PART_BYTES).catch(() => null);
      process.kill(-web.pid, 'SIGKILL');
      await cut;
      ({ web, at } = await begin());
      let { received } = (await (await fetch(`${at}/api/intakes/${id}`)).json()) as { received: number };
      if (received < PART_BYTES) throw new Error('What had been sent was lost.');
      while (received < LOG.length)
        received = ((await (await put(received)).json()) as { received: number }).received;
      worker();
      await reached(store, id, 'done');
      await web.stop();
      await isWhole(store, jobId);
    });
  } finally {
    for (const child of children) child.kill('SIGKILL');
    await store.destroy();
    cluster.stop();
  }
  const failed = results.filter((one) => one.error !== null).length;
  writeFileSync(
    join(root, '.build', 'kill.json'),
    JSON.stringify({ passed: results.length - failed, failed }),
  );
  process.exit(failed === 0 ? 0 : 1);
}

const newJob = async (store: Store): Promise<string> => {
  const { job, system } = demoSystem('harbour-office');
  return insertJob(store, await insertSystem(store, system), job);
};

async function send(store: Store): Promise<{ jobId: string; intakeId: string }> {
  const jobId = await newJob(store);
  const { id } = (await openIntake(store, {
    jobId,
    fileName: 'log.csv',
    size: LOG.length,
    modified: 1,
    description: { device: 'monitor' },
  }))!;
  for (let at = 0; at < LOG.length; at += PART_BYTES)
    await takePart(store, id, at, LOG.subarray(at, at + PART_BYTES));
  return { jobId, intakeId: id };
}

/** Waits for a state, through times in which the database does not answer. */
async function reached(store: Store, intakeId: string, wanted: IntakeState): Promise<void> {
  const until = Date.now() + 90_000;
  let last = '';
  while (Date.now() < until) {
    const now = await findIntake(store, intakeId).catch(() => null);
    last = now?.state ?? 'not to be asked';
    if (last === wanted) return;
    if (last === 'failed') throw new Error(`It failed: ${now?.problem}`);
    if (last === 'done') throw new Error(`It was done before it was seen ${wanted}.`);
    await pause(wanted === 'done' ? 100 : 4);
  }
  throw new Error(`It was not ${wanted} within 90 s, but ${last}.`);
}

/** One recording with every sample, its chunks without a gap, and of the file nothing left behind. */
async function isWhole(store: Store, jobId: string): Promise<void> {
  const recordings = await listRecordings(store, jobId);
  if (recordings.length !== 1 || recordings[0]!.sampleCount !== ROWS)
    throw new Error(`There are ${recordings.length} recordings, with ${recordings[0]?.sampleCount} samples.`);
  const chunks = await store
    .selectFrom('recording_chunks')
    .select(['channel', 'sequence', 'sample_count'])
    .where('recording_id', '=', recordings[0]!.id)
    .execute();
  for (const channel of ['time', ...recordings[0]!.channels]) {
    const own = chunks.filter((one) => one.channel === channel);
    const samples = own.reduce((sum, one) => sum + one.sample_count, 0);
    const last = Math.max(...own.map((one) => one.sequence));
    if (samples !== ROWS || own.length !== last + 1)
      throw new Error(`The chunks of ${channel} hold ${samples} samples in ${own.length} chunks.`);
  }
  const others = await store.selectFrom('recordings').select('id').where('job_id', '=', jobId).execute();
  if (others.length !== 1) throw new Error(`${others.length} recordings were begun.`);
  const parts = await store.selectFrom('intake_parts').select('at').execute();
  if (parts.length > 0) throw new Error(`${parts.length} parts of the file were left behind.`);
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
