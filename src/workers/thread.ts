/** Worker thread: reads a log file, or analyses a job, away from the thread that answers requests. */

import { createReadStream } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import { buffersOf } from '@/core/log/channels';
import { csvReader, type CsvReader, type ReadPlan } from '@/core/log/readCsv';
import { recognise } from '@/core/log/recognise';
import { NotALog } from '@/core/log/sniff';
import { dialectOf, planReading, tooFewRows } from '@/core/log/takeIn';
import { joined } from '@/core/log/tables/delimited';
import { openStream } from '@/core/log/tables/open';
import { diagnose } from '@/core/diagnosis/diagnose';
import type { ThreadAnswer, ThreadTask } from './tasks';

/** Enough of a file to recognise it. */
const HEAD_BYTES = 262_144;

async function run(task: ThreadTask): Promise<ThreadAnswer> {
  if (task.kind === 'analyse') return { kind: 'analysed', diagnosis: diagnose(task.input) };
  const { deviceKind, description, timeZone } = task;
  const head: Uint8Array[] = [];
  let headBytes = 0;
  let reader: CsvReader | null = null;
  let plan: ReadPlan | null = null;
  const begin = (): CsvReader => {
    const start = joined(head);
    plan = planReading(recognise(start, deviceKind, dialectOf(description)), description, timeZone);
    const begun = csvReader(plan);
    begun.push(start);
    return begun;
  };
  const file = createReadStream(task.path, { highWaterMark: 1 << 20 }) as AsyncIterable<Uint8Array>;
  for await (const chunk of openStream(file, task.fileName)) {
    if (reader) {
      reader.push(chunk);
      continue;
    }
    head.push(chunk);
    headBytes += chunk.length;
    if (headBytes >= HEAD_BYTES) reader = begin();
  }
  reader ??= begin();
  const result = reader.end();
  if (result.series.time.length < 2) throw new NotALog(tooFewRows(result));
  const { series, zoned, rows, problemCount, problems } = result;
  return { kind: 'read', plan: plan!, series, zoned, rows, problemCount, problems };
}

run(workerData as ThreadTask).then(
  (answer) => parentPort!.postMessage(answer, answer.kind === 'read' ? buffersOf(answer.series) : []),
  (error: unknown) =>
    parentPort!.postMessage({
      kind: 'failed',
      ours: error instanceof NotALog,
      message: error instanceof Error ? error.message : String(error),
    } satisfies ThreadAnswer),
);
