/** Things that are there while hostile requests come. */

import { writeBundle, zipBundle } from '@/core/bundle/write';
import { demoSite } from '@/core/simulate/demo';
import type { Store } from '@/store/database';
import { type Asked, ask } from './asking';

/** Things that are there, for ids to name. */
export interface There {
  job: string;
  system: string;
  recording: string;
  photo: string;
  intake: string;
  change: string;
}

/** Makes them through the doors themselves. */
export async function makeThings(store: Store): Promise<There> {
  const { job, system } = demoSite('harbour-office');
  const zip = zipBundle(
    writeBundle('doors', { ...job, title: 'Behind the doors' }, system, [
      {
        path: 'logs/monitor.csv',
        bytes: Buffer.from(
          'time,battery voltage (V),battery current (A)\n' +
            Array.from(
              { length: 200 },
              (_, i) =>
                `${new Date(Date.UTC(2026, 8, 1) + i * 60_000).toISOString()},25.${i % 10},${(i % 5) - 2}\n`,
            ).join(''),
        ),
        description: { device: 'monitor' },
      },
    ]),
  );
  const json = async (asked: Asked) => {
    const answer = await ask(asked);
    if (answer.status >= 300)
      throw new Error(`${asked.method} ${asked.path}: ${answer.status} ${answer.text}`);
    return JSON.parse(answer.text) as { id: string; change?: { id: string } };
  };
  const post = (path: string, value: unknown) =>
    json({
      method: 'POST',
      path,
      headers: { 'content-type': 'application/json' },
      body: Buffer.from(JSON.stringify(value)),
    });
  const { id } = await json({
    method: 'POST',
    path: '/api/bundles',
    headers: { 'content-type': 'application/zip' },
    body: Buffer.from(zip),
  });
  const row = await store
    .selectFrom('jobs')
    .select('system_id')
    .where('id', '=', id)
    .executeTakeFirstOrThrow();
  for (let i = 0; i < 200; i++) {
    const found = await store
      .selectFrom('recordings')
      .select('id')
      .where('job_id', '=', id)
      .executeTakeFirst();
    if (found) {
      const png = Buffer.from(
        'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
        'base64',
      );
      const photo = await json({
        method: 'POST',
        path: `/api/jobs/${id}/photos?item=joints`,
        headers: { 'content-type': 'image/png' },
        body: png,
      });
      const intake = await post(`/api/jobs/${id}/intakes`, {
        fileName: 'half.csv',
        size: 100,
        description: { device: 'monitor' },
      });
      const change = await post(`/api/systems/${row.system_id}/changes`, {
        base: 1,
        path: 'monitor.detectionMinutes',
        after: 4,
        why: 'Try.',
        on: '2026-10-27',
      });
      return {
        job: id,
        system: row.system_id,
        recording: found.id,
        photo: photo.id,
        intake: intake.id,
        change: change.change!.id,
      };
    }
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error('No worker took the log in.');
}
