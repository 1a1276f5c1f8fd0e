/** Runs a task in a worker thread and waits for its answer. */

import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { buffersOf, type Series } from '@/core/log/channels';
import type { Table } from '@/core/log/export/columns';
import type { ClockEstimate } from '@/core/log/overlay';
import { NotALog } from '@/core/log/sniff';
import type { Diagnosis, DiagnosisInput } from '@/core/diagnosis/diagnose';
import type { ReadAnswer, ThreadAnswer, ThreadTask } from '@/workers/tasks';

/** Threads are bundled beside the server by scripts/build-tools.mjs. */
const threadPath = () => join(/* turbopackIgnore: true */ process.cwd(), '.build', 'thread.cjs');

/** @param signal ends the thread when the one who asked has gone. @param given buffers that the thread takes over */
function runThread(task: ThreadTask, signal?: AbortSignal, given: ArrayBuffer[] = []): Promise<ThreadAnswer> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(threadPath(), { workerData: task, transferList: given });
    const stop = () => {
      void worker.terminate();
      reject(new DOMException('The task was cancelled.', 'AbortError'));
    };
    signal?.addEventListener('abort', stop, { once: true });
    worker.once('message', (answer: ThreadAnswer) => resolve(answer));
    worker.once('error', reject);
    worker.once('exit', () => {
      signal?.removeEventListener('abort', stop);
      reject(new Error('The worker thread ended without an answer.'));
    });
  });
}

function failed(answer: Extract<ThreadAnswer, { kind: 'failed' }>): Error {
  return answer.ours ? new NotALog(answer.message) : new Error(answer.message);
}

/** @throws NotALog with a sentence for the user */
export async function readInThread(
  task: Omit<Extract<ThreadTask, { kind: 'read' }>, 'kind'>,
  signal?: AbortSignal,
): Promise<ReadAnswer> {
  const answer = await runThread({ kind: 'read', ...task }, signal);
  if (answer.kind === 'failed') throw failed(answer);
  if (answer.kind !== 'read') throw new Error('The worker thread answered something else than was asked.');
  return answer;
}

/** The thread takes the samples over: they are gone here after. */
export async function analyseInThread(input: DiagnosisInput): Promise<Diagnosis> {
  const answer = await runThread({ kind: 'analyse', input }, undefined, input.series.flatMap(buffersOf));
  if (answer.kind === 'failed') throw failed(answer);
  if (answer.kind !== 'analysed')
    throw new Error('The worker thread answered something else than was asked.');
  return answer.diagnosis;
}

/** What two logs say of the clock of the second; null when they have seen nothing in common. The thread takes their samples over. */
export async function estimateInThread(first: Series, second: Series): Promise<ClockEstimate | null> {
  const answer = await runThread(
    { kind: 'estimate-clock', first, second },
    undefined,
    [first, second].flatMap(buffersOf),
  );
  if (answer.kind === 'failed') throw failed(answer);
  if (answer.kind !== 'clock') throw new Error('The worker thread answered something else than was asked.');
  return answer.estimate;
}

/** A table as Parquet. The thread takes its columns over. */
export async function parquetInThread(table: Table): Promise<Uint8Array> {
  const columns = [table.time, ...table.columns.map((one) => one.values)];
  const buffers = new Set(columns.map((one) => one.buffer as ArrayBuffer));
  const answer = await runThread({ kind: 'write-parquet', table }, undefined, [...buffers]);
  if (answer.kind === 'failed') throw failed(answer);
  if (answer.kind !== 'parquet') throw new Error('The worker thread answered something else than was asked.');
  return answer.file;
}
