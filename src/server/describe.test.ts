/** Descriptions on the server: refused like in the form, saved, recorded, bundled. Against PostgreSQL when TEST_DATABASE_URL is set. */

import { createHash } from 'node:crypto';
import sharp from 'sharp';
import { type BundleFiles, readBundle, readDescription, unzipBundle } from '@/core/bundle/read';
import { writeBundle } from '@/core/bundle/write';
import { diagnose } from '@/core/diagnosis/diagnose';
import { DEMO_SLUGS, demoJob, demoSystem } from '@/core/simulate/demo';
import { problemsOf } from '@/core/system/check';
import { systemSchema } from '@/core/system/schema';
import { findAnalyses } from '@/store/analyses';
import { listChanges } from '@/store/changes';
import type { Store } from '@/store/database';
import { takeTestStore, testDatabaseUrl } from '../../tests/support/testStore';
import { findJob, findSystem, insertJob, insertSystem } from '@/store/jobs';
import { findPhoto, listPhotos } from '@/store/photos';
import { listRecordings, setRecordingRemoved } from '@/store/recordings';
import { analyseJob } from './analyseJob';
import { changeSetting, undoChange } from './changeSetting';
import { bundleOfJob, jobFromBundle } from './jobBundle';
import { newJob } from './newJob';
import { saveJobDescription, saveSystemDescription } from './saveDescription';
import { takeInWhole } from './takeInWhole';
import { startWorker } from './worker';
import { NotAPhoto, takeInPhoto } from './takeInPhoto';

const { job, system } = demoSystem('parish-radio');
const NOW = '2026-10-26T15:10:00.000Z';

(testDatabaseUrl ? describe : describe.skip)('descriptions on the server', () => {
  let store: Store;
  let release: () => Promise<void>;
  let systemId: string;
  let jobId: string;

  beforeAll(async () => {
    ({ store, release } = await takeTestStore());
  }, 60_000);
  beforeEach(async () => {
    await store.deleteFrom('systems').execute();
    systemId = await insertSystem(store, system);
    jobId = await insertJob(store, systemId, job);
  });
  afterAll(() => release());

  test('what the form would refuse is refused with the same sentence, and nothing is changed', async () => {
    const bad = { ...system, monitor: { ...system.monitor!, efficiencyPercent: 140 } };
    const problems = problemsOf(systemSchema.safeParse(bad).error!);
    expect(problems).toEqual({ 'monitor.efficiencyPercent': 'This lies between 1 and 100 %.' });
    expect(await saveSystemDescription(store, systemId, { base: 1, value: bad })).toEqual({
      status: 400,
      body: { problems },
    });
    expect((await findSystem(store, systemId))!.version).toBe(1);
    for (const nonsense of [undefined, null, 3, {}, { base: '1', value: system }])
      expect((await saveSystemDescription(store, systemId, nonsense)).status).toBe(400);
  });

  test('the second of two savers is given what stands there', async () => {
    expect(await saveJobDescription(store, jobId, { base: 1, value: { ...job, title: 'A' } })).toEqual({
      status: 200,
      body: { version: 2 },
    });
    expect(await saveJobDescription(store, jobId, { base: 1, value: { ...job, title: 'B' } })).toMatchObject({
      status: 409,
      body: { version: 2, value: { title: 'A' } },
    });
    expect((await saveJobDescription(store, systemId, { base: 1, value: job })).status).toBe(404);
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
    const again = await newJob(store, { systemId, title: 'Again', complaints: [] }, NOW);
    expect((await findJob(store, (again as { id: string }).id))!.systemId).toBe(systemId);
    expect(await newJob(store, { systemName: '', title: '', complaints: [] }, NOW)).toEqual({
      problems: { systemName: 'Give it a name.', title: 'Give it a name.' },
    });
    expect(await newJob(store, { systemId: jobId, title: 'X', complaints: [] }, NOW)).toHaveProperty(
      'problems.systemId',
    );
    expect(await newJob(store, { title: 'X', complaints: [] }, NOW)).toHaveProperty('problems.systemName');
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
      const answer = (more: object) => changeSetting(store, systemId, { ...change, ...more });
      expect(await answer({ why: ' ' })).toHaveProperty('problems.why');
      expect(await answer({ after: -3 })).toEqual({ problems: { after: 'This must be above 0.' } });
      expect(await answer({ on: '27.10.2026' })).toHaveProperty('problems.on');
      expect(await answer({ path: 'monitor.colour' })).toEqual({
        problems: { path: 'There is no such setting.' },
      });
      expect(await answer({ base: 9 })).toMatchObject({ conflict: { version: 1 } });
      expect(await changeSetting(store, jobId, change)).toBeNull();
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
      await expect(takeInPhoto(store, jobId, 'joints', Buffer.from('<html>'))).rejects.toThrow(NotAPhoto);
      await expect(takeInPhoto(store, jobId, 'joints', Buffer.alloc(21 << 20))).rejects.toThrow(
        /larger than 20 MB/,
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
    const { zip, fileName } = (await bundleOfJob(store, from))!;
    expect(fileName).toMatch(/^[a-z0-9-]+\.zip$/);
    const { id, left } = await jobFromBundle(store, zip);
    expect(left).toEqual([]);
    const again = (await findJob(store, id))!;
    const stood = (await findJob(store, from))!;
    expect(again.systemId).not.toBe(first);
    expect([again.job, again.system]).toEqual([stood.job, stood.system]);
    expect((await listChanges(store, again.systemId)).map(({ why }) => why)).toEqual(['Try.']);
    expect(await listPhotos(store, id)).toHaveLength(1);
    expect(readDescription(unzipBundle((await bundleOfJob(store, id))!.zip))).toMatchObject({
      job: stood.job,
      system: stood.system,
    });
  });

  test('a bundle with logs gives the same findings elsewhere, byte for byte', async () => {
    const demo = demoJob('tide-gauge');
    const from = await insertJob(store, await insertSystem(store, demo.system), demo.job);
    const stored = (await findJob(store, from))!;
    const worker = await startWorker(testDatabaseUrl!);
    for (const { device, path, text } of demo.logs)
      expect(
        await takeInWhole(store, stored, path.replace(/^.*\//, ''), { device }, Buffer.from(text)),
      ).toBeNull();
    const { zip } = (await bundleOfJob(store, from))!;
    const { id, left } = await jobFromBundle(store, zip);
    await worker.stop();
    expect(left).toEqual([]);
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
    expect(await road(unzipBundle(zip))).toBe(await road(first));

    // A removed log is weighed no more, can be put back, and may be taken in again.
    const [one] = await listRecordings(store, from);
    expect(await setRecordingRemoved(store, one!.id, true)).toBe(true);
    expect(await listRecordings(store, from)).toHaveLength(demo.logs.length - 1);
    expect(await findings(from)).not.toBe(await findings(id));
    expect(await setRecordingRemoved(store, one!.id, false)).toBe(true);
    expect(await findings(from)).toBe(await findings(id));
  }, 60_000);
});
