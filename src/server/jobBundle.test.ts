/** Jobs as bundles: out and in again, with something left out, and broken off. Against PostgreSQL when TEST_DATABASE_URL is set. */

import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import sharp from 'sharp';
import {
  bundleFiles,
  type BundleFiles,
  inMemory,
  readBundle,
  readDescription,
  unzipBundle,
} from '@/core/bundle/read';
import { writeBundle, zipBundle } from '@/core/bundle/write';
import { diagnose } from '@/core/diagnosis/diagnose';
import { readLog } from '@/core/log/takeIn';
import { DEMO_SLUGS, demoSystem } from '@/core/simulate/demo';
import { devicesOf } from '@/core/system/schema';
import { findAnalyses } from '@/store/analyses';
import { listChanges } from '@/store/changes';
import type { Store } from '@/store/database';
import { listIntakes } from '@/store/intakes';
import { findJob, insertJob, insertSystem } from '@/store/jobs';
import { listPhotos } from '@/store/photos';
import { insertRecording, listRecordings, setRecordingRemoved } from '@/store/recordings';
import { collected, fromZip, takenIn } from '../../tests/support/bundles';
import { keptDemo } from '../../tests/support/demos';
import { takeTestStore, testDatabaseUrl } from '../../tests/support/testStore';
import { analyseJob } from './analyseJob';
import { changeSetting } from './changeSetting';
import { bundleOfJob } from './jobBundle';
import { takeInPhoto } from './takeInPhoto';
import { endThreads } from './threads';
import { startWorker } from './worker';

(testDatabaseUrl ? describe : describe.skip)('a job as a bundle', () => {
  let store: Store;
  let release: () => Promise<void>;

  beforeAll(async () => {
    ({ store, release } = await takeTestStore());
  });
  beforeEach(() => store.deleteFrom('systems').execute());
  afterAll(async () => {
    await endThreads();
    await release();
  });

  test.each(DEMO_SLUGS)('%s: a bundle out and in again is the same job', async (slug) => {
    const demo = demoSystem(slug);
    const first = await insertSystem(store, demo.system);
    const from = await insertJob(store, first, demo.job);
    await changeSetting(store, first, {
      base: 1,
      path: 'monitor.detectionMinutes',
      after: 4,
      why: 'Try.',
      on: '2026-10-27',
    });
    await takeInPhoto(
      store,
      from,
      'joints',
      await sharp({ create: { width: 8, height: 6, channels: 3, background: '#fff' } })
        .png()
        .toBuffer(),
    );
    const out = await bundleOfJob(store, from);
    expect(out.fileName).toMatch(/^[a-z0-9-]+\.zip$/);
    const id = await takenIn(store, await collected(out));
    const again = (await findJob(store, id))!;
    const stood = (await findJob(store, from))!;
    expect(again.systemId).not.toBe(first);
    expect([again.job, again.system]).toEqual([stood.job, stood.system]);
    expect((await listChanges(store, again.systemId)).map(({ why }) => why)).toEqual(['Try.']);
    expect(await listPhotos(store, id)).toHaveLength(1);
    expect(
      await readDescription(await unzipBundle(await collected(await bundleOfJob(store, id)))),
    ).toMatchObject({
      job: stood.job,
      system: stood.system,
    });
  });

  test('a bundle with logs gives the same findings elsewhere, byte for byte', async () => {
    const demo = keptDemo('tide-gauge');
    const from = await insertJob(store, await insertSystem(store, demo.system), demo.job);
    for (const { device, path, text } of demo.logs) {
      const bytes = Buffer.from(text);
      const { kind } = devicesOf(demo.system).find((one) => one.id === device)!;
      const read = readLog(bytes, kind, { device }, demo.system.timeZone);
      await insertRecording(store, {
        ...read,
        jobId: from,
        fileName: path.replace(/^.*\//, ''),
        sha256: createHash('sha256').update(bytes).digest('hex'),
        rowCount: read.rows,
      });
    }
    const worker = await startWorker(testDatabaseUrl!);
    const zip = await collected(await bundleOfJob(store, from));
    const id = await takenIn(store, zip);
    while ((await listIntakes(store, id)).length > 0) await new Promise((done) => setTimeout(done, 100));
    await worker.stop();
    // As the database gives it back; a digest, so that a difference does not print a megabyte.
    const findings = async (of: string) => {
      await analyseJob(store, (await findJob(store, of))!);
      const { result } = (await findAnalyses(store, [of])).get(of)!;
      return createHash('sha256').update(JSON.stringify(result)).digest('hex');
    };
    expect(await findings(id)).toBe(await findings(from));
    // On the command line's road, without a database, the bundle says what the first files said.
    const road = async (files: BundleFiles) => {
      const { job: read, system: described, logs } = await readBundle(files);
      return createHash('sha256')
        .update(
          JSON.stringify(diagnose({ job: read, system: described, series: logs.map((one) => one.series) })),
        )
        .digest('hex');
    };
    const logs = (await listRecordings(store, from)).map(({ device }) =>
      demo.logs.find((one) => one.device === device)!,
    );
    const first = writeBundle(
      'tide-gauge',
      demo.job,
      demo.system,
      logs.map(({ path, device, text }) => ({ path, bytes: Buffer.from(text), description: { device } })),
    );
    expect(await road(await unzipBundle(zip))).toBe(
      await road(bundleFiles([...first].map(([path, bytes]) => [path, inMemory(bytes)] as const))),
    );

    // A removed log is weighed no more, can be put back, and may be taken in again.
    const [one] = await listRecordings(store, from);
    expect(await setRecordingRemoved(store, one!.id, true)).toBe('done');
    expect(await listRecordings(store, from)).toHaveLength(demo.logs.length - 1);
    expect(await findings(from)).not.toBe(await findings(id));
    expect(await setRecordingRemoved(store, one!.id, false)).toBe('done');
    expect(await findings(from)).toBe(await findings(id));
  });

  describe('a bundle of which something would be left out', () => {
    const broken = () => {
      const demo = demoSystem('harbour-office');
      return zipBundle(
        writeBundle(
          'x',
          demo.job,
          demo.system,
          [{ path: 'logs/monitor.csv', bytes: Buffer.from('nothing\n'), description: { device: 'monitor' } }],
          { photos: [{ path: 'photos/a.jpg', check: 'joints', bytes: Buffer.from('<svg/>') }] },
        ).set('notes.txt', Buffer.from('rang the owner')),
      );
    };
    const jobs = async () => (await store.selectFrom('jobs').select('id').execute()).length;

    test('says so before, and stores nothing; told to, it takes in the rest', async () => {
      const before = await jobs();
      const told = await fromZip(store, broken());
      expect(told).not.toHaveProperty('id');
      expect(told.left).toEqual([
        expect.stringMatching(/^notes\.txt lies in the bundle/),
        expect.stringMatching(/^logs\/monitor\.csv: No rows of readings/),
        expect.stringMatching(/^photos\/a\.jpg: it cannot be read as a photo/),
      ]);
      expect(await jobs()).toBe(before);
      expect(await fromZip(store, broken(), true)).toHaveProperty('id');
      expect(await jobs()).toBe(before + 1);
    });

    test('what fails in the middle leaves nothing behind', async () => {
      const demo = keptDemo('harbour-office');
      const zip = zipBundle(
        writeBundle(
          'x',
          demo.job,
          demo.system,
          demo.logs.map(({ path, device, text }) => ({
            path,
            bytes: Buffer.from(text),
            description: { device },
          })),
        ),
      );
      const before = await jobs();
      await sql`create function refuse() returns trigger language plpgsql as $$ begin raise 'no'; end $$`.execute(
        store,
      );
      await sql`create trigger refuse before insert on intake_parts execute function refuse()`.execute(store);
      try {
        await expect(fromZip(store, zip)).rejects.toThrow('no');
      } finally {
        await sql`drop function refuse cascade`.execute(store);
      }
      expect(await jobs()).toBe(before);
      expect(await store.selectFrom('intakes').select('id').execute()).toEqual([]);
    });
  });
});
