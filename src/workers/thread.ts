/** Worker thread: reads a log file, or analyses a job, away from the thread that answers requests. */

import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { parentPort, workerData } from 'node:worker_threads';
import { buffersOf } from '@/core/log/channels';
import { parquetOf } from '@/core/log/export/parquet';
import { estimateClock } from '@/core/log/overlay';
import { csvReader, type CsvReader, type ReadPlan } from '@/core/log/readCsv';
import { HEAD_BYTES, recognise } from '@/core/log/recognise';
import { PART, partsOf, settleDateOrder } from '@/core/log/dateOrder';
import { NotALog } from '@/core/log/sniff';
import { givenOf, planReading, tooFewRows } from '@/core/log/takeIn';
import { joined } from '@/core/log/tables/delimited';
import { openStream } from '@/core/log/tables/open';
import { diagnose } from '@/core/diagnosis/diagnose';
import type { ThreadAnswer, ThreadTask } from './tasks';

/** Parts of a file over its whole length; of a packed one they say nothing. */
async function partsOfFile(path: string): Promise<Uint8Array[]> {
  const file = await open(path);
  try {
    const { size } = await file.stat();
    const parts: Uint8Array[] = [];
    for (const at of partsOf(size)) {
      const { buffer, bytesRead } = await file.read(Buffer.alloc(PART), 0, PART, at);
      parts.push(buffer.subarray(0, bytesRead));
    }
    return parts;
  } finally {
    await file.close();
  }
}

async function run(task: ThreadTask): Promise<ThreadAnswer> {
  if (task.kind === 'analyse') return { kind: 'analysed', diagnosis: diagnose(task.input) };
  if (task.kind === 'estimate-clock')
    return { kind: 'clock', estimate: estimateClock(task.first, task.second) };
  if (task.kind === 'write-parquet') return { kind: 'parquet', file: parquetOf(task.table) };
  const { path, fileName, deviceKind, description, timeZone } = task;
  const { plan, series, zoned, rows, problemCount, problems } = await readLogFile(
    {
      name: fileName,
      chunks: createReadStream(path, { highWaterMark: 1 << 20 }) as AsyncIterable<Uint8Array>,
      parts: () => partsOfFile(path),
    },
    deviceKind,
    description,
    timeZone,
  );
  return { kind: 'read', plan, series, zoned, rows, problemCount, problems };
}

/** What is given away with an answer instead of copied. */
function handedOver(answer: ThreadAnswer): ArrayBuffer[] {
  if (answer.kind === 'read') return buffersOf(answer.series);
  return answer.kind === 'parquet' ? [answer.file.buffer as ArrayBuffer] : [];
}

run(workerData as ThreadTask).then(
  (answer) => parentPort!.postMessage(answer, handedOver(answer)),
  (error: unknown) =>
    parentPort!.postMessage({
      kind: 'failed',
      ours: error instanceof NotALog,
      message: error instanceof Error ? error.message : String(error),
    } satisfies ThreadAnswer),
);
