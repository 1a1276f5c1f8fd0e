/** Worker thread: reads a log, weighs a job, opens a bundle and so on, away from the thread that answers requests. */

import Piscina from 'piscina';
import { BundleError } from '@/core/bundle/read';
import { LogAsks } from '@/core/log/answers';
import { buffersOf } from '@/core/log/channels';
import { parquetOf } from '@/core/log/export/parquet';
import { estimateClock } from '@/core/log/overlay';
import { readLogFile } from '@/core/log/readFile';
import { NotALog } from '@/core/log/sniff';
import { observe } from '@/core/diagnosis/observe';
import { openBundle } from './bundle';
import { logOnDisk } from './onDisk';
import { smallPhoto } from './photo';
import type { ThreadAnswer, ThreadTask } from './tasks';

async function run(task: ThreadTask): Promise<ThreadAnswer> {
  switch (task.kind) {
    case 'observe':
      return { kind: 'observed', observed: observe(task.system, task.series) };
    case 'estimate-clock':
      return { kind: 'clock', estimate: estimateClock(task.first, task.second) };
    case 'write-parquet':
      return { kind: 'parquet', file: parquetOf(task.table) };
    case 'open-bundle':
      return { kind: 'bundle', bundle: await openBundle(task.path, task.folder) };
    case 'draw-report': {
      // Loaded only where a report is drawn: it is large.
      const { drawReport } = await import('./report');
      return { kind: 'report', file: await drawReport(task.report, task.photos) };
    }
    case 'draw-sheet': {
      const { drawSheet } = await import('./report');
      return { kind: 'report', file: await drawSheet(task.sheet, task.photos) };
    }
    case 'photo':
      return { kind: 'photo', photo: await smallPhoto(task.bytes) };
    case 'read': {
      const { path, fileName, deviceKind, description, timeZone } = task;
      const read = await readLogFile(logOnDisk(path, fileName), deviceKind, description, timeZone);
      const { plan, series, zoned, rows, problemCount, problems } = read;
      return { kind: 'read', plan, series, zoned, rows, problemCount, problems };
    }
  }
}

/** What is given away with an answer instead of copied. */
function handedOver(answer: ThreadAnswer): ArrayBuffer[] {
  if (answer.kind === 'read') return buffersOf(answer.series);
  return answer.kind === 'parquet' ? [answer.file.buffer as ArrayBuffer] : [];
}

export default async function work(task: ThreadTask) {
  let answer: ThreadAnswer;
  try {
    answer = await run(task);
  } catch (error) {
    return {
      kind: 'failed',
      ours: error instanceof NotALog || error instanceof BundleError,
      message: error instanceof Error ? error.message : String(error),
      ...(error instanceof LogAsks ? { question: error.question } : {}),
    } satisfies ThreadAnswer;
  }
  const given = handedOver(answer);
  if (given.length === 0) return answer;
  return Piscina.move({
    get [Piscina.transferableSymbol]() {
      return given;
    },
    get [Piscina.valueSymbol]() {
      return answer;
    },
  } as never);
}
