// Everything that bin/demo does: install, start PostgreSQL, migrate, seed, build, serve, with a worker that takes in logs.
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuild } from './setup/build.mjs';
import { ensureDebian, ensureNpm } from './setup/packages.mjs';
import { startCluster } from './setup/postgres.mjs';
import { forget, isRunning, lastRun, record } from './setup/runFile.mjs';
import { keepWorker, serve } from './setup/serve.mjs';
import {
  endProcess,
  freePort,
  processFolder,
  processLine,
  root,
  run,
  say,
  start,
  Stop,
} from './setup/shell.mjs';

const HELP = `bin/demo [--reset]   starts Pazienza with its demo data on this machine alone

  --reset    make the demo data anew
  PORT       the port to serve on (3000, or the next free one)
  DATABASE_URL   use this PostgreSQL database and start none
`;

/** Ends a web server that a killed run left behind. @returns {Promise<string | null>} address of a run that is still going */
async function lookForEarlierRun() {
  const run = lastRun();
  if (!run) return null;
  if (isRunning(run)) return run.address;
  if (/next|web\.cjs/.test(processLine(run.webPid) ?? '') && processFolder(run.webPid) === root) {
    say('Ending a web server that an earlier run left behind.');
    await endProcess(run.webPid);
  }
  forget();
  return null;
}

start(async () => {
  const { values } = options();
  if (values.help) return void process.stdout.write(HELP);
  const running = await lookForEarlierRun();
  if (running && values.reset)
    throw new Stop(
      `Pazienza is running from this folder at ${running}: end it first, then start with --reset.`,
    );
  if (running) return say(`Pazienza is running already at ${running}`);

  /** @type {(() => unknown)[]} */
  const toEnd = [];
  /** @type {Promise<void> | null} */
  let ending = null;
  // Ends what was started, last first, once: whoever asks again waits for the same end.
  const end = (/** @type {number} */ code) =>
    (ending ??= (async () => {
      for (const one of toEnd.reverse()) await one();
      forget();
      process.exit(code);
    })());
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end(0));

  try {
    const given = process.env.DATABASE_URL;
    if (!given) await ensureDebian('postgresql');
    await ensureNpm();
    let databaseUrl = given ?? '';
    if (!given) {
      const cluster = await startCluster('demo', { reset: values.reset === true });
      toEnd.push(() => cluster.stop());
      await cluster.createDatabase('pazienza');
      databaseUrl = cluster.url('pazienza');
    }
    await ensureBuild();
    const admin = (/** @type {string} */ verb) =>
      run('node', ['.build/admin.cjs', verb], { DATABASE_URL: databaseUrl });
    for (const verb of ['migrate', ...(given && values.reset ? ['unseed'] : []), 'seed'])
      if ((await admin(verb)) !== 0)
        throw new Stop(
          `The database could not be prepared (${verb}). ${given ? 'Check DATABASE_URL.' : 'Start with --reset to make the demo data anew.'}`,
        );
    const demoLogs = join(root, '.pazienza', 'demo-logs');
    if (!existsSync(demoLogs) || values.reset) await run('node', ['.build/admin.cjs', 'demo-logs', demoLogs]);

    const worker = keepWorker(databaseUrl);
    toEnd.push(() => worker.stop());
    const port = await freePort(Number(process.env.PORT ?? 3000), 'Pazienza');
    const web = await serve({ port, databaseUrl });
    toEnd.push(() => web.stop());
    record({ pid: process.pid, webPid: web.pid, address: web.address });
    say(`\nPazienza is at ${web.address}   (Ctrl-C ends it)`);
    say(`A log to take in: ${join(demoLogs, 'tide-gauge', 'solar-controller.csv')}`);
    const code = await web.ended;
    if (!ending) say('The web application has ended.');
    await end(code);
  } catch (error) {
    for (const one of toEnd.reverse()) await one();
    throw error;
  }
});

function options() {
  try {
    return parseArgs({ options: { reset: { type: 'boolean' }, help: { type: 'boolean', short: 'h' } } });
  } catch (error) {
    throw new Stop(`${error instanceof Error ? error.message : error}\n\n${HELP}`);
  }
}
