/** Descriptions on the server: refused like in the form, saved, recorded, bundled. Against PostgreSQL when TEST_DATABASE_URL is set. */

import sharp from 'sharp';
import { demoSystem } from '@/core/simulate/demo';
import { problemsOf } from '@/core/system/check';
import { systemSchema } from '@/core/system/schema';
import { listChanges } from '@/store/changes';
import type { Store } from '@/store/database';
import { takeTestStore, testDatabaseUrl } from '../../tests/support/testStore';
import { findJob, findSystem, insertJob, insertSystem } from '@/store/jobs';
import { store as routesStore } from './store';
import { findPhoto, listPhotos } from '@/store/photos';
import { changeSetting, undoChange } from './changeSetting';
import { newJob } from './newJob';
import { PUT as putJob } from '@/app/api/jobs/[id]/route';
import { POST as postJob } from '@/app/api/jobs/route';
import { POST as postChange } from '@/app/api/systems/[id]/changes/route';
import { PUT as putSystem } from '@/app/api/systems/[id]/route';
import { ask } from '../../tests/support/ask';
import { endThreads } from './threads';
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
  });
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
      after: 51.7,
      why: 'Never reached.',
      on: '2026-10-27',
    };
    test('is set and recorded with what it was, when and why', async () => {
      const answer = await changeSetting(store, systemId, change);
      expect(answer).toMatchObject({ version: 2, system: { monitor: { chargedV: 51.7 } } });
      expect(await listChanges(store, systemId)).toMatchObject([
        {
          on: '2026-10-27',
          label: 'Monitor: Charged voltage',
          unit: 'V',
          before: 53.9,
          after: 51.7,
          why: 'Never reached.',
        },
      ]);
    });
    test('undone, the setting is as before and the record is gone', async () => {
      await changeSetting(store, systemId, change);
      const { id } = (await listChanges(store, systemId))[0]!;
      expect(await undoChange(store, systemId, id)).toMatchObject({
        version: 3,
        system: { monitor: { chargedV: 53.9 } },
      });
      expect(await listChanges(store, systemId)).toEqual([]);
      expect(await undoChange(store, systemId, id)).toBeNull();
    });
    test('undone after it was changed again, only the record goes', async () => {
      await changeSetting(store, systemId, change);
      const { id } = (await listChanges(store, systemId))[0]!;
      await changeSetting(store, systemId, { ...change, base: 2, after: 55 });
      expect(await undoChange(store, systemId, id)).toMatchObject({
        // Logs are judged by the record too: they are weighed anew.
        version: 4,
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
});
