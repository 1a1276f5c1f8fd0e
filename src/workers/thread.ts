/** Worker thread: reads a log file, or analyses a job, away from the thread that answers requests. */

import { createReadStream, openSync, readSync, closeSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import type { Series } from '@/core/log/channels';
import { csvReader } from '@/core/log/readCsv';
import { recognise } from '@/core/log/recognise';
import { NotALog } from '@/core/log/sniff';
import { planReading } from '@/core/log/takeIn';
import { diagnose } from '@/core/diagnosis/diagnose';
import type { ThreadAnswer, ThreadTask } from './tasks';

/** Enough of a file to recognise it. */
const HEAD_BYTES = 262_144;

async function run(task: ThreadTask): Promise<ThreadAnswer> {
  if (task.kind === 'analyse') return { kind: 'analysed', diagnosis: diagnose(task.input) };
  const head = new Uint8Array(HEAD_BYTES);
  const file = openSync(task.path, 'r');
  const length = readSync(file, head);
  closeSync(file);
  const plan = planReading(
    recognise(head.subarray(0, length), task.deviceKind),
    task.description,
    task.timeZone,
  );
  const reader = csvReader(plan);
  for await (const chunk of createReadStream(task.path, { highWaterMark: 1 << 20 }))
    reader.push(chunk as Buffer);
  const { series, rows, problemCount, problems } = reader.end();
  if (series.time.length < 2)
    throw new NotALog(
      `Only ${series.time.length} of ${rows} rows could be read.${problems[0] ? ` Line ${problems[0].line}: ${problems[0].reason}` : ''}`,
    );
  return { kind: 'read', plan, series, rows, problemCount, problems };
}

const buffersOf = (series: Series): ArrayBuffer[] =>
  [series.time, ...(Object.values(series.channels) as Float32Array[])].map(
    (column) => column.buffer as ArrayBuffer,
  );

run(workerData as ThreadTask).then(
  (answer) => parentPort!.postMessage(answer, answer.kind === 'read' ? buffersOf(answer.series) : []),
  (error: unknown) =>
    parentPort!.postMessage({
      kind: 'failed',
      ours: error instanceof NotALog,
      message: error instanceof Error ? error.message : String(error),
    } satisfies ThreadAnswer),
);
