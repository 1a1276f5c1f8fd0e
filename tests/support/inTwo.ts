/** A program that makes files, two at a time, into a folder that appears when all of them are there. See keepMade.mjs. */

import { mkdirSync, renameSync } from 'node:fs';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';

/** @param make writes the files of one name into a folder */
export function inTwo(names: readonly string[], make: (name: string, folder: string) => void): void {
  if (isMainThread) void handOut(process.argv[2]!, [...names]);
  else
    parentPort!.on('message', (name: string) => {
      make(name, (workerData as { folder: string }).folder);
      parentPort!.postMessage(name);
    });
}

async function handOut(folder: string, waiting: string[]): Promise<void> {
  const unfinished = `${folder}.unfinished`;
  mkdirSync(unfinished, { recursive: true });
  await Promise.all(
    [1, 2].map(
      () =>
        new Promise<void>((done, fail) => {
          const worker = new Worker(process.argv[1]!, { workerData: { folder: unfinished } });
          const next = () => {
            const name = waiting.shift();
            if (name === undefined) void worker.terminate().then(() => done());
            else worker.postMessage(name);
          };
          worker.on('message', next).on('error', fail);
          next();
        }),
    ),
  );
  renameSync(unfinished, folder);
}
