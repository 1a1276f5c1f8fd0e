/** Simulates every demo system into a folder, two at a time: its job and logs as JSON, its truth beside it. See keepDemos.mjs. */

import { mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { serialize } from 'node:v8';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import { DEMO_SLUGS, demoJob, demoTruth } from '@/core/simulate/demo';

if (isMainThread) void main(process.argv[2]!);
else
  parentPort!.on('message', (slug: string) => {
    const { folder } = workerData as { folder: string };
    const truth = demoTruth(slug);
    writeFileSync(join(folder, `${slug}.truth`), serialize(truth));
    writeFileSync(join(folder, `${slug}.json`), JSON.stringify(demoJob(slug, truth)));
    parentPort!.postMessage(slug);
  });

async function main(folder: string): Promise<void> {
  const unfinished = `${folder}.unfinished`;
  mkdirSync(unfinished, { recursive: true });
  const waiting = [...DEMO_SLUGS];
  await Promise.all(
    [1, 2].map(
      () =>
        new Promise<void>((done, fail) => {
          const worker = new Worker(process.argv[1]!, { workerData: { folder: unfinished } });
          const next = () => {
            const slug = waiting.shift();
            if (slug) worker.postMessage(slug);
            else void worker.terminate().then(() => done());
          };
          worker.on('message', next).on('error', fail);
          next();
        }),
    ),
  );
  renameSync(unfinished, folder);
}
