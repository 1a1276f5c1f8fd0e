/** Fills an empty database with the demo systems. Seeding again changes nothing that is there. */

import { createHash } from 'node:crypto';
import { readLog } from '@/core/log/takeIn';
import { DEMO_SLUGS, demoJob, ON_SITE_DEMOS } from '@/core/simulate/demo';
import { fedBy } from '@/core/onsite/judge';
import { noRecords } from '@/core/records/records';
import { devicesOf } from '@/core/system/schema';
import type { Store } from '@/store/database';
import { findJob, insertJob, insertSystem, systemWithSlug } from '@/store/jobs';
import { insertRecording } from '@/store/recordings';
import { insertRecords } from '@/store/records';
import { analyseJob } from './analyseJob';

/** Logs that the technician has not taken in yet when the demo starts: they lie ready as files. */
const LEFT_TO_TAKE_IN = new Set(['tide-gauge/solar']);

/** @returns slugs of the systems that were added */
export async function seed(store: Store): Promise<string[]> {
  const added: string[] = [];
  for (const slug of DEMO_SLUGS) {
    if (await systemWithSlug(store, slug)) continue;
    const { job, system, logs, records } = demoJob(slug);
    const systemId = await insertSystem(store, system, slug);
    const jobId = await insertJob(store, systemId, job);
    await insertRecords(store, systemId, records, jobId);
    for (const { device, path, text } of logs) {
      if (LEFT_TO_TAKE_IN.has(`${slug}/${device}`)) continue;
      const bytes = Buffer.from(text);
      const { kind } = devicesOf(system).find((one) => one.id === device)!;
      const { series, rows, problemCount, problems, plan, zoned, clock } = readLog(
        bytes,
        kind,
        { device },
        system.timeZone,
      );
      await insertRecording(store, {
        jobId,
        fileName: path.replace(/^.*\//, ''),
        sha256: createHash('sha256').update(bytes).digest('hex'),
        plan,
        rowCount: rows,
        problemCount,
        problems,
        series,
        zoned,
        clock,
      });
    }
    await analyseJob(store, (await findJob(store, jobId))!);
    added.push(slug);
  }
  for (const { slug, system, job, records } of ON_SITE_DEMOS) {
    if (await systemWithSlug(store, slug)) continue;
    const systemId = await insertSystem(store, (records.visit ?? []).reduce(fedBy, system), slug);
    const jobId = await insertJob(store, systemId, job);
    await insertRecords(store, systemId, { ...noRecords(), ...records }, jobId);
    await analyseJob(store, (await findJob(store, jobId))!);
    added.push(slug);
  }
  return added;
}

/** Removes the demo systems with their jobs and recordings; what users made stays. */
export async function unseed(store: Store): Promise<void> {
  await store
    .deleteFrom('systems')
    .where('slug', 'in', [...DEMO_SLUGS, ...ON_SITE_DEMOS.map((one) => one.slug)])
    .execute();
}
