/**
 * Heavy work in a few worker threads, with bounds on time, memory and how much may wait: the thread that answers requests never does it.
 */

import { join } from 'node:path';
import Piscina from 'piscina';
import { buffersOf, type Series } from '@/core/log/channels';
import { LogAsks } from '@/core/log/answers';
import type { Table } from '@/core/log/export/columns';
import type { ClockEstimate } from '@/core/log/overlay';
import { NotALog } from '@/core/log/sniff';
import type { Observed } from '@/core/diagnosis/observe';
import type { System } from '@/core/system/schema';
import { MINUTE } from '@/core/quantity/span';
import type { Report } from '@/ui/report/sections';
import type { VisitSheet } from '@/ui/report/visitSheet';
import type { OpenedBundle, ReadAnswer, SmallPhoto, ThreadAnswer, ThreadTask } from '@/workers/tasks';

/** Threads that read, weigh and unpack; beside them one for photos, which never wait behind those. */
const THREADS = 2;
/** Tasks that may wait for a thread. */
const MOST_WAITING = 64;
/** Heap of a thread, MB: columns of numbers are not in it. */
const HEAP_MB = 640;

/** How long a task may take, ms. */
const PATIENCE: Record<ThreadTask['kind'], number> = {
  read: 30 * MINUTE,
  observe: 2 * MINUTE,
  'estimate-clock': MINUTE,
  'write-parquet': 10 * MINUTE,
  'open-bundle': 10 * MINUTE,
  photo: MINUTE / 2,
  'draw-report': MINUTE,
  'draw-sheet': MINUTE,
};

const kept = globalThis as typeof globalThis & { pazienzaPools?: { work: Piscina; photos: Piscina } };

function pools() {
  // Threads are bundled beside the server by scripts/build-tools.mjs.
  const filename = join(/* turbopackIgnore: true */ process.cwd(), '.build', 'thread.cjs');
  const pool = (maxThreads: number, maxQueue: number) =>
    new Piscina({
      filename,
      minThreads: 0,
      maxThreads,
      maxQueue,
      idleTimeout: 20_000,
      resourceLimits: { maxOldGenerationSizeMb: HEAP_MB },
    });
  return (kept.pazienzaPools ??= { work: pool(THREADS, MOST_WAITING), photos: pool(1, MOST_WAITING) });
}

/** Something could not be done for want of time, memory or a free thread: a sentence for the user. */
export class TooMuch extends Error {}

/** @param given buffers that the thread takes over. @param cancelled ends the task when the one who asked has gone */
async function run<K extends ThreadAnswer['kind']>(
  task: ThreadTask,
  kind: K,
  given: ArrayBuffer[] = [],
  cancelled?: AbortSignal,
): Promise<Extract<ThreadAnswer, { kind: K }>> {
  const late = AbortSignal.timeout(PATIENCE[task.kind]);
  const signal = cancelled ? AbortSignal.any([late, cancelled]) : late;
  let answer: ThreadAnswer;
  try {
    const pool = task.kind === 'photo' ? pools().photos : pools().work;
    answer = (await pool.run(task, { transferList: given, signal })) as ThreadAnswer;
  } catch (error) {
    if (cancelled?.aborted) throw new DOMException('The task was cancelled.', 'AbortError');
    if (late.aborted)
      throw new TooMuch(`It took longer than ${Math.round(PATIENCE[task.kind] / 1000)} s and was given up.`);
    const { code, message } = error as { code?: string; message: string };
    if (code === 'ERR_WORKER_OUT_OF_MEMORY')
      throw new TooMuch('It needs more memory than there is for one file.');
    if (/queue/i.test(message))
      throw new TooMuch('Too much is being worked on at the moment: try again later.');
    throw error;
  }
  if (answer.kind === 'failed') {
    if (answer.question) throw new LogAsks(answer.question, answer.message);
    throw answer.ours ? new NotALog(answer.message) : new Error(answer.message);
  }
  if (answer.kind !== kind) throw new Error('The worker thread answered something else than was asked.');
  return answer as Extract<ThreadAnswer, { kind: K }>;
}

/** @throws NotALog with a sentence for the user; LogAsks when something must be asked; TooMuch */
export const readInThread = (
  task: Omit<Extract<ThreadTask, { kind: 'read' }>, 'kind'>,
  signal?: AbortSignal,
): Promise<ReadAnswer> => run({ kind: 'read', ...task }, 'read', [], signal);

/** The thread takes the samples over: they are gone here after. @throws TooMuch */
export const observeInThread = async (system: System, series: Series[]): Promise<Observed> =>
  (await run({ kind: 'observe', system, series }, 'observed', series.flatMap(buffersOf))).observed;

/** What two logs say of the clock of the second; null when they have seen nothing in common. The thread takes their samples over. */
export const estimateInThread = async (first: Series, second: Series): Promise<ClockEstimate | null> =>
  (await run({ kind: 'estimate-clock', first, second }, 'clock', [first, second].flatMap(buffersOf)))
    .estimate;

/** A table as Parquet. The thread takes its columns over. */
export async function parquetInThread(table: Table): Promise<Uint8Array> {
  const columns = [table.time, ...table.columns.map((one) => one.values)];
  const buffers = new Set(columns.map((one) => one.buffer as ArrayBuffer));
  return (await run({ kind: 'write-parquet', table }, 'parquet', [...buffers])).file;
}

/** Unpacks a bundle into a folder and looks what it holds. @throws NotALog with what is wrong with it */
export const openBundleInThread = async (path: string, folder: string): Promise<OpenedBundle> =>
  (await run({ kind: 'open-bundle', path, folder }, 'bundle')).bundle;

/** A report as a PDF. @param photos JPEGs by their ids */
export const reportInThread = async (
  report: Report,
  photos: ReadonlyMap<string, Uint8Array>,
): Promise<Uint8Array> => (await run({ kind: 'draw-report', report, photos }, 'report')).file;

/** The sheet of a visit as a PDF. @param photos JPEGs by their ids */
export const sheetInThread = async (
  sheet: VisitSheet,
  photos: ReadonlyMap<string, Uint8Array>,
): Promise<Uint8Array> => (await run({ kind: 'draw-sheet', sheet, photos }, 'report')).file;

/** A photo made small; null when it cannot be read as one. */
export const photoInThread = async (bytes: Uint8Array): Promise<SmallPhoto | null> =>
  (await run({ kind: 'photo', bytes }, 'photo')).photo;

/** Ends the threads. */
export async function endThreads(): Promise<void> {
  const { pazienzaPools } = kept;
  delete kept.pazienzaPools;
  await pazienzaPools?.work.destroy();
  await pazienzaPools?.photos.destroy();
}
