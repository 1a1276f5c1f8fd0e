// Everything that bin/test does: set up, then every test and check. Ends with one line: N passed, N failed.
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuild } from './setup/build.mjs';
import { ensureDebian, ensureNpm } from './setup/packages.mjs';
import { freshDatabase, startCluster } from './setup/postgres.mjs';
import { keepWorker, serve } from './setup/serve.mjs';
import { freePort, root, run, runAside, say, start, Stop } from './setup/shell.mjs';

const DATABASE = 'pazienza_test';
/** Beside it one for each worker of jest. */
const DATABASES = [DATABASE, `${DATABASE}_1`, `${DATABASE}_2`];

let passed = 0;
let failed = 0;

/** Seconds that each step took, in the order of their ends. @type {[string, number][]} */
const took = [];

/** @template T @param {string} name @param {() => Promise<T>} step @returns {Promise<T>} */
async function timed(name, step) {
  const began = performance.now();
  try {
    return await step();
  } finally {
    took.push([name, Math.round((performance.now() - began) / 1000)]);
  }
}

/** A check that passes or fails as a whole. @param {string} name @param {string[]} command */
async function check(name, ...command) {
  const { code, out } = await timed(name, () => runAside('npx', ['--no-install', ...command]));
  say(`\n== ${name}\n${out.trim()}`);
  if (code === 0) passed++;
  else {
    failed++;
    say(`${name}: failed.`);
  }
}

/**
 * A test runner whose JSON report says how many tests passed and failed.
 * @param {string} name @param {string} file @param {string[]} command @param {Record<string, string>} env
 * @param {(report: any) => [number, number]} counts
 */
async function tests(name, file, command, env, counts) {
  say(`\n== ${name}`);
  const report = join(root, '.build', file);
  rmSync(report, { force: true });
  add(report, name, await timed(name, () => run('npx', ['--no-install', ...command], env)), counts);
}

/**
 * Counts what a runner reported. A runner that failed without a failed test (a file that does not load, say) has failed all the same.
 * @param {string} report @param {string} name @param {number} code @param {(report: any) => [number, number]} counts
 */
function add(report, name, code, counts) {
  let result = [0, 0];
  try {
    result = counts(JSON.parse(readFileSync(report, 'utf8')));
  } catch {
    say(`${name}: there is no report of it.`);
  }
  passed += /** @type {number} */ (result[0]);
  failed +=
    code === 0 && result[0]
      ? /** @type {number} */ (result[1])
      : Math.max(1, /** @type {number} */ (result[1]));
}

/** Kills need servers of their own, and mostly wait: they run beside what asks ours. Without PostgreSQL of our own none may be killed. */
async function kills() {
  if (process.env.DATABASE_URL) return;
  const name = 'Killed on the way in: worker, PostgreSQL, web server';
  const report = join(root, '.build', 'kill.json');
  rmSync(report, { force: true });
  const { code, out } = await timed(name, () =>
    runAside('npx', ['--no-install', '-c', 'node .build/kill.cjs']),
  );
  say(`\n== ${name}\n${out.trim()}`);
  add(report, name, code, (report) => [report.passed, report.failed]);
}

/** Bent logs read by themselves: they need no server, and run beside what does. */
async function bentLogs() {
  const report = join(root, '.build', 'fuzz.json');
  rmSync(report, { force: true });
  const { code, out } = await timed('Bent logs', () =>
    runAside('npx', ['--no-install', '-c', 'node .build/fuzz.cjs 0.3']),
  );
  say(`\n== Bent logs\n${out.trim()}`);
  add(report, 'Bent logs', code, (report) => [report.passed, report.failed]);
}

/** @param {string} databaseUrl */
async function demoData(databaseUrl) {
  for (const verb of ['migrate', 'seed'])
    if ((await run('node', ['.build/admin.cjs', verb], { DATABASE_URL: databaseUrl })) !== 0)
      throw new Stop(`The test database could not be prepared (${verb}).`);
}

/** The database of the end-to-end tests: from the given server, or from a cluster of our own. */
async function testDatabase() {
  const given = process.env.DATABASE_URL;
  if (!given) {
    const cluster = await startCluster('test');
    for (const name of DATABASES) await cluster.createDatabase(name);
    await cluster.emptyDatabase(DATABASE);
    return { url: cluster.url(DATABASE), stop: cluster.stop };
  }
  const url = new URL(given);
  try {
    for (const name of DATABASES) await freshDatabase(given, name);
  } catch (error) {
    throw new Stop(
      `The tests need a database of their own, and ${DATABASE} cannot be made on the given server: ${error instanceof Error ? error.message : error}`,
    );
  }
  url.pathname = `/${DATABASE}`;
  return { url: url.href, stop: () => {} };
}

start(async () => {
  await ensureDebian(...(process.env.DATABASE_URL ? [] : /** @type {const} */ (['postgresql'])), 'chromium');
  await ensureNpm();
  mkdirSync(join(root, '.build'), { recursive: true });

  const database = await testDatabase();
  try {
    // Two lanes, a core each: what is built and what needs it, and what does not.
    const build = async () => {
      say('\n== Production build');
      await timed('Production build', ensureBuild);
      passed++;
      await timed('Demo data', () => demoData(database.url));
      await check('Types', 'tsc', '--noEmit');
    };
    const beside = async () => {
      await check('Lint', 'eslint', '.', '--max-warnings', '0');
      await check('Format', 'prettier', '--check', '.', '--log-level', 'warn');
      await check('Types of the core: no DOM, no Node', 'tsc', '--noEmit', '-p', 'src/core');
      await check('Types of the scripts', 'tsc', '--noEmit', '-p', 'scripts');
      await check('Circles of imports', '-c', 'node scripts/check-circles.mjs');
    };
    await Promise.all([build(), beside()]);

    await tests(
      'Unit tests, the store and reference checks',
      'jest.json',
      ['jest', '--json', '--outputFile=.build/jest.json'],
      { TEST_DATABASE_URL: database.url },
      // Here nothing has a reason to be skipped.
      (report) => [report.numPassedTests, report.numFailedTests + report.numPendingTests],
    );
    const web = await serve({
      port: await freePort(3100, 'the tested application'),
      databaseUrl: database.url,
    });
    const worker = keepWorker(database.url);
    try {
      await tests(
        'In the browser',
        'playwright.json',
        ['playwright', 'test'],
        { BASE_URL: web.address },
        (report) => [report.stats.expected, report.stats.unexpected + report.stats.flaky],
      );
      // Bent logs need no server, and kills have their own: they run beside the hostile requests.
      const bent = bentLogs().then(kills);
      await tests(
        'Hostile requests to every door',
        'doors.json',
        ['-c', 'node .build/doors.cjs 1'],
        {
          BASE_URL: web.address,
          DATABASE_URL: database.url,
          WEB_PID: String(web.pid),
          WORKER_PID: String(worker.pid()),
        },
        (report) => [report.passed, report.failed],
      );
      await bent;
    } finally {
      await worker.stop();
      await web.stop();
    }
  } finally {
    database.stop();
  }
  say(`\n${took.map(([name, seconds]) => `${String(seconds).padStart(5)} s  ${name}`).join('\n')}`);
  say(`\n${passed} passed, ${failed} failed`);
  return failed === 0 ? 0 : 1;
});
