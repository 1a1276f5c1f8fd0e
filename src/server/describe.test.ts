/** Descriptions on the server: refused like in the form, saved, recorded, bundled. Against PostgreSQL when TEST_DATABASE_URL is set. */

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
import { DEMO_SLUGS, demoJob, demoSystem } from '@/core/simulate/demo';
import { problemsOf } from '@/core/system/check';
import { systemSchema } from '@/core/system/schema';
import { findAnalyses } from '@/store/analyses';
import { listChanges } from '@/store/changes';
import type { Store } from '@/store/database';
import { takeTestStore, testDatabaseUrl } from '../../tests/support/testStore';
import { findJob, findSystem, insertJob, insertSystem } from '@/store/jobs';
import { store as routesStore } from './store';
import { findPhoto, listPhotos } from '@/store/photos';
import { listRecordings, setRecordingRemoved } from '@/store/recordings';
import { analyseJob } from './analyseJob';
import { changeSetting, undoChange } from './changeSetting';
import { bundleOfJob } from './jobBundle';
import { newJob } from './newJob';
import { PUT as putJob } from '@/app/api/jobs/[id]/route';
import { POST as postJob } from '@/app/api/jobs/route';
import { POST as postChange } from '@/app/api/systems/[id]/changes/route';
import { PUT as putSystem } from '@/app/api/systems/[id]/route';
import { insertRecording } from '@/store/recordings';
import { readLog } from '@/core/log/takeIn';
import { devicesOf } from '@/core/system/schema';
import { ask } from '../../tests/support/ask';
import { collected, fromZip, takenIn } from '../../tests/support/bundles';
import { listIntakes } from '@/store/intakes';
import { endThreads } from './threads';
import { startWorker } from './worker';
import { takeInPhoto } from './takeInPhoto';

const { job, system } = demoSystem('parish-radio');
const NOW = '2026-10-26T15:10:00.000Z';

(testDatabaseUrl ? describe : describe.skip)('descriptions on the server', () => {
  let store: Store;
  let release: () => Promise<void>;
  let systemId: string;
  let jobId: string;

  beforeAll(async () => {
    ({ store, release } = await takeTestStore());
    // The routes open a store of their own on the same database.
    process.env.DATABASE_URL = testDatabaseUrl;
  }, 60_000);
  beforeEach(async () => {
    await store.deleteFrom('systems').execute();
    systemId = await insertSystem(store, system);
    jobId = await insertJob(store, systemId, job);
  });
  afterAll(async () => {
    await endThreads();
    await routesStore().destroy();
    await release();
  });

  test('what the form would refuse is refused with the same sentence, and nothing is changed', async () => {
    const bad = { ...system, monitor: { ...system.monitor!, efficiencyPercent: 140 } };
    const problems = problemsOf(systemSchema.safeParse(bad).error!);
    expect(problems).toEqual({ 'monitor.efficiencyPercent': 'This lies between 1 and 100 %.' });
    const put = (json: unknown) => ask(putSystem, { params: { id: systemId }, json });
    expect(await put({ base: 1, value: bad })).toEqual({
      status: 400,
      body: { error: 'Charge efficiency: This lies between 1 and 100 %.', problems },
    });
    expect((await findSystem(store, systemId))!.version).toBe(1);
    for (const nonsense of [null, 3, {}, { base: '1', value: system }, { base: 1.5, value: system }])
      expect(await put(nonsense)).toMatchObject({
        status: 400,
        body: { error: expect.stringMatching(/\.$/) },
      });
    expect(await ask(putSystem, { params: { id: systemId }, body: '{"base"' })).toMatchObject({
      status: 400,
    });
  });

  test('the second of two savers is given what stands there', async () => {
    const put = (title: string, id = jobId) =>
      ask(putJob, { params: { id }, json: { base: 1, value: { ...job, title } } });
    expect(await put('A')).toEqual({ status: 200, body: { version: 2 } });
    expect(await put('B')).toMatchObject({ status: 409, body: { version: 2, value: { title: 'A' } } });
    expect((await put('C', systemId)).status).toBe(404);
    expect((await put('D', 'no-id')).status).toBe(404);
  });

  test('a job is opened on a new system or on one that is known', async () => {
    const made = await newJob(
      store,
      {
        systemName: 'New pier',
        timeZone: 'Europe/Rome',
        title: 'Lamp dies',
        complaints: ['premature-cutoff'],
      },
      NOW,
    );
    const found = (await findJob(store, (made as { id: string }).id))!;
    expect(found.system).toEqual({
      name: 'New pier',
      timeZone: 'Europe/Rome',
      bank: {},
      sources: [],
      loads: [],
    });
    expect(found.job.openedAt).toBe(NOW);
    const post = (json: unknown) => ask(postJob, { json });
    const again = await post({ systemId, title: 'Again', complaints: [] });
    expect((await findJob(store, (again.body as { id: string }).id))!.systemId).toBe(systemId);
    expect(await post({ systemName: '', title: '', complaints: [] })).toMatchObject({
      status: 400,
      body: { problems: { systemName: 'Give it a name.', title: 'Give it a name.' } },
    });
    expect(await post({ systemId: jobId, title: 'X', complaints: [] })).toHaveProperty(
      'body.problems.systemId',
    );
    expect(await post({ title: 'X', complaints: [] })).toHaveProperty('body.problems.systemName');
    const systems = await store.selectFrom('systems').select('id').execute();
    expect(systems).toHaveLength(2);
  });

  describe('a changed setting', () => {
    const change = {
      base: 1,
      path: 'monitor.chargedV',
      after: 55.2,
      why: 'Never reached.',
      on: '2026-10-27',
    };
    test('is set and recorded with what it was, when and why', async () => {
      const answer = await changeSetting(store, systemId, change);
      expect(answer).toMatchObject({ version: 2, system: { monitor: { chargedV: 55.2 } } });
      expect(await listChanges(store, systemId)).toMatchObject([
        {
          on: '2026-10-27',
          label: 'Monitor: Charged voltage',
          unit: 'V',
          before: 57.6,
          after: 55.2,
          why: 'Never reached.',
        },
      ]);
    });
    test('undone, the setting is as before and the record is gone', async () => {
      await changeSetting(store, systemId, change);
      const { id } = (await listChanges(store, systemId))[0]!;
      expect(await undoChange(store, systemId, id)).toMatchObject({
        version: 3,
        system: { monitor: { chargedV: 57.6 } },
      });
      expect(await listChanges(store, systemId)).toEqual([]);
      expect(await undoChange(store, systemId, id)).toBeNull();
    });
    test('undone after it was changed again, only the record goes', async () => {
      await changeSetting(store, systemId, change);
      const { id } = (await listChanges(store, systemId))[0]!;
      await changeSetting(store, systemId, { ...change, base: 2, after: 55 });
      expect(await undoChange(store, systemId, id)).toMatchObject({
        version: 3,
        system: { monitor: { chargedV: 55 } },
      });
    });
    test('a setting that was not known, or is switched off', async () => {
      await changeSetting(store, systemId, { ...change, path: 'sources.0.profile.tailA', after: 4 });
      await changeSetting(store, systemId, {
        ...change,
        base: 2,
        path: 'sources.0.profile.tailA',
        after: null,
      });
      expect((await listChanges(store, systemId)).map(({ before, after }) => [before, after])).toEqual([
        [4, null],
        [null, 4],
      ]);
    });
    test('is refused without a reason, with a value that cannot be, for no setting, or on a stale version', async () => {
      const post = (more: object, id = systemId) =>
        ask(postChange, { params: { id }, json: { ...change, ...more } });
      const problems = async (more: object) => {
        const { status, body } = await post(more);
        expect(status).toBe(400);
        return (body as { problems: Record<string, string> }).problems;
      };
      expect(await problems({ why: ' ' })).toHaveProperty('why');
      expect(await problems({ after: -3 })).toEqual({ after: 'This must be above 0.' });
      expect(await problems({ after: 1e300 })).toHaveProperty('after');
      expect(await problems({ on: '27.10.2026' })).toHaveProperty('on');
      expect(await problems({ base: 1.5 })).toHaveProperty('base');
      for (const path of ['monitor.colour', 'constructor', '__proto__.x', 'bank.toString', 'name.length'])
        expect(await problems({ path })).toEqual({ path: 'There is no such setting.' });
      const started = Date.now();
      for (const path of [
        'sources.4294967294.profile.floatV',
        'sources.5000000.profile.floatV',
        'loads.9.cutoffV',
      ])
        expect(await post({ path })).toMatchObject({
          status: 400,
          body: { error: expect.stringMatching(/no such setting/) },
        });
      expect(Date.now() - started).toBeLessThan(1000);
      expect(await post({ base: 9 })).toMatchObject({ status: 409, body: { version: 1 } });
      expect((await post({}, jobId)).status).toBe(404);
      expect(await listChanges(store, systemId)).toEqual([]);
    });
  });

  describe('photos', () => {
    const image = (width: number, height: number) =>
      sharp({ create: { width, height, channels: 3, background: '#446655' } });
    test('are made smaller, turned upright, and lose their metadata', async () => {
      const withExif = await image(3000, 2000)
        .withExif({ IFD0: { Make: 'Somebody', Copyright: 'secret place' } })
        .withMetadata({ orientation: 6 })
        .jpeg()
        .toBuffer();
      expect((await sharp(withExif).metadata()).exif).toBeDefined();
      const photo = await takeInPhoto(store, jobId, 'joints', withExif);
      // Turned by a quarter: 2000 × 3000, made to fit 1600.
      expect([photo.width, photo.height]).toEqual([1067, 1600]);
      const kept = (await findPhoto(store, photo.id))!;
      const metadata = await sharp(kept).metadata();
      expect([metadata.format, metadata.exif, metadata.icc, metadata.xmp]).toEqual([
        'jpeg',
        undefined,
        undefined,
        undefined,
      ]);
      expect(kept.includes('secret place')).toBe(false);
    });
    test('what is no photo, too large, or of no item is refused with a sentence', async () => {
      const png = await image(10, 10).png().toBuffer();
      await expect(takeInPhoto(store, jobId, 'nothing', png)).rejects.toThrow(/belongs to no item/);
      await expect(takeInPhoto(store, jobId, 'joints', Buffer.from('<html>'))).rejects.toThrow(
        /cannot be read as a photo/,
      );
      expect(await listPhotos(store, jobId)).toEqual([]);
    });
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
    const demo = demoJob('tide-gauge');
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
  }, 60_000);

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
      const demo = demoJob('harbour-office');
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
    }, 30_000);
  });
});
