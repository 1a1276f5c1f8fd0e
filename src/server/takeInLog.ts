/** Takes a log file into a job: to disk, read in a thread, stored in one transaction, and the job analysed anew. */

import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { z } from 'zod';
import { logDescriptionSchema } from '@/core/bundle/schema';
import { isTimeZone } from '@/core/quantity/timeZone';
import { NotALog } from '@/core/log/sniff';
import { devicesOf } from '@/core/system/schema';
import type { Store } from '@/store/database';
import type { StoredJob } from '@/store/jobs';
import { insertRecording, sameRecording } from '@/store/recordings';
import { analyseJob } from './analyseJob';
import { readInThread } from './threads';

export const uploadSchema = z.object({
  fileName: z.string().min(1).max(255),
  description: logDescriptionSchema,
});
export type Upload = z.infer<typeof uploadSchema>;

export type Phase = 'reading' | 'storing' | 'analysing';

/**
 * @param body the file's bytes as they arrive. @param onPhase told what is being done.
 * @param signal ends it; nothing is stored then. @returns the id of the recording
 * @throws NotALog with a sentence for the user
 */
export async function takeInLog(
  store: Store,
  job: StoredJob,
  upload: Upload,
  body: ReadableStream<Uint8Array>,
  onPhase: (phase: Phase) => void,
  signal: AbortSignal,
): Promise<string> {
  const { description, fileName } = upload;
  const device = devicesOf(job.system).find((one) => one.id === description.device);
  if (!device)
    throw new NotALog(
      `This system has no device "${description.device}": choose the one that wrote the log.`,
    );
  if (description.timeZone !== undefined && !isTimeZone(description.timeZone))
    throw new NotALog(`"${description.timeZone}" is not a time zone: use a name such as "Europe/Rome".`);

  const path = join(tmpdir(), `pazienza-${randomUUID()}`);
  try {
    const hash = createHash('sha256');
    const source = Readable.fromWeb(body as Parameters<typeof Readable.fromWeb>[0]);
    await pipeline(
      source,
      async function* (chunks: AsyncIterable<Uint8Array>) {
        for await (const chunk of chunks) {
          hash.update(chunk);
          yield chunk;
        }
      },
      createWriteStream(path),
      { signal },
    );
    const sha256 = hash.digest('hex');
    if (await sameRecording(store, job.id, device.id, sha256))
      throw new NotALog(`This file was taken in already for ${device.name}. Nothing was changed.`);
    onPhase('reading');
    const read = await readInThread(
      { path, fileName, deviceKind: device.kind, description, timeZone: job.system.timeZone },
      signal,
    );
    signal.throwIfAborted();
    onPhase('storing');
    const id = await insertRecording(store, {
      jobId: job.id,
      fileName,
      sha256,
      plan: read.plan,
      rowCount: read.rows,
      problemCount: read.problemCount,
      problems: read.problems,
      series: read.series,
    });
    onPhase('analysing');
    await analyseJob(store, job);
    return id;
  } finally {
    await rm(path, { force: true });
  }
}
