/** Database chores from the command line: `node .build/admin.cjs migrate | seed | unseed | work | demo-logs FOLDER`. All but the last need DATABASE_URL. */

import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { DEMO_SLUGS, demoJob } from '@/core/simulate/demo';
import { migrate, openStore } from '@/store/database';
import { seed, unseed } from './seed';
import { endThreads } from './threads';
import { startWorker } from './worker';

async function main([verb, folder]: string[]): Promise<void> {
  if (verb === 'demo-logs' && folder) return writeDemoLogs(folder);
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set.');
  if (verb === 'work') return work(url);
  const store = openStore(url);
  try {
    if (verb === 'migrate') {
      const applied = await migrate(store);
      console.log(applied.length > 0 ? `Migrated: ${applied.join(', ')}` : 'The tables are up to date.');
    } else if (verb === 'seed') {
      const added = await seed(store);
      console.log(added.length > 0 ? `Demo data made: ${added.join(', ')}` : 'The demo data is there.');
    } else if (verb === 'unseed') await unseed(store);
    else throw new Error(`Say migrate, seed, unseed, work or demo-logs FOLDER, not "${verb ?? ''}".`);
  } finally {
    await endThreads();
    await store.destroy();
  }
}

/** Takes logs off the queue until it is told to end. */
async function work(url: string): Promise<void> {
  const worker = await startWorker(url);
  console.log('A worker waits for logs.');
  const end = () => void worker.stop().then(() => process.exit(0));
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, end);
  // Started by another program, it ends with it.
  process.once('disconnect', end);
}

function writeDemoLogs(folder: string): void {
  for (const slug of DEMO_SLUGS)
    for (const { path, text } of demoJob(slug).logs) {
      const name = path.replace(/^.*\//, '');
      mkdirSync(join(folder, slug), { recursive: true });
      writeFileSync(join(folder, slug, name), text);
    }
  console.log(`Demo logs written to ${folder}`);
}

main(process.argv.slice(2)).catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : String(error));
  process.exitCode = 1;
});
