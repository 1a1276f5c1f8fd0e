/** Against a real PostgreSQL when TEST_DATABASE_URL is set, as bin/test does; the tables are emptied. */

import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import type { CapacityTest } from '@/core/capacity/record';
import { noRecords } from '@/core/records/records';
import { demoSite } from '@/core/simulate/demo';
import type { Series } from '@/core/log/channels';
import { diagnose } from '@/core/diagnosis/diagnose';
import { recordingTile } from '@/server/tiles';
import { findAnalyses, saveAnalysis } from './analyses';
import { takeTestStore, testDatabaseUrl } from '../../tests/support/testStore';
import { migrate, type Store } from './database';
import { deleteChange, insertChange, listChanges } from './changes';
import {
  clearRemoved,
  findJob,
  findSystem,
  insertJob,
  insertSystem,
  latestChecks,
  saveJob,
  saveSystem,
  setJobRemoved,
} from './jobs';
import { listJobs, listSystems, PAGE } from './lists';
import { findPhoto, insertPhoto, listPhotos, setPhotoRemoved } from './photos';
import { insertRecording, listRecordings, sameRecording } from './recordings';
import { insertRecords, listRecords, saveRecord, setRecordRemoved } from './records';
import { CHUNK_SAMPLES, loadSeries, loadWindow } from './samples';

const { job, system } = demoSite('tide-gauge');
const START = Date.UTC(2026, 0, 1);

function series(count: number): Series {
  const volts = Float32Array.from({ length: count }, (_, i) =>
    i % 100 === 3 ? NaN : 12 + Math.sin(i / 500),
  );
  return {
    device: 'solar',
    time: Float64Array.from({ length: count }, (_, i) => START + i * 60_000),
    channels: { source_voltage: volts },
  };
}

const newRecording = (jobId: string, of: Series, sha256 = 'a'.repeat(64)) => ({
  jobId,
  fileName: 'log.csv',
  sha256,
  plan: {
    device: 'solar',
    dialect: { delimiter: ',', decimalChar: '.' as const, headingLine: 0, unitLine: null, firstDataLine: 1 },
    timeColumn: 0,
    timeFormat: { kind: 'date' as const, order: 'ymd' as const },
    timeZone: 'UTC',
    columns: [],
  },
  rowCount: of.time.length,
  problemCount: 0,
  problems: [],
  series: of,
  zoned: false,
  clock: { timeZone: 'UTC', offsetSeconds: 0, secondsPerDay: 0 },
});

(testDatabaseUrl ? describe : describe.skip)('the store', () => {
  let store: Store;
  let release: () => Promise<void>;
  let jobId: string;

  beforeAll(async () => {
    ({ store, release } = await takeTestStore());
  });
  afterAll(() => release());
  beforeEach(async () => {
    await store.deleteFrom('systems').execute();
    jobId = await insertJob(store, await insertSystem(store, system), job);
  });

  test('migrating again does nothing', async () => {
    expect(await migrate(store)).toEqual([]);
  });

  test('a job comes back with its system; what is no id is no job', async () => {
    expect(await findJob(store, jobId)).toMatchObject({ job, system });
    expect(await findJob(store, 'x; drop table jobs')).toBeNull();
    expect((await listJobs(store)).rows.map((one) => [one.id, one.recordings])).toEqual([[jobId, 0]]);
  });

  test('a recording of several chunks comes back sample for sample', async () => {
    const written = series(2 * CHUNK_SAMPLES + 137);
    const id = await insertRecording(store, newRecording(jobId, written));
    const read = await loadSeries(store, id);
    expect(read.time).toEqual(written.time);
    expect(read.channels.source_voltage).toEqual(written.channels.source_voltage);
    const [info] = await listRecordings(store, jobId);
    expect(info).toMatchObject({
      device: 'solar',
      sampleCount: written.time.length,
      from: START,
      channels: ['source_voltage'],
    });
    expect(await sameRecording(store, jobId, 'solar', 'a'.repeat(64))).toBe(id);
  });

  test('chunks keep minimum, maximum, sum and count of what is known', async () => {
    const written = series(500);
    const id = await insertRecording(store, newRecording(jobId, written));
    const known = Array.from(written.channels.source_voltage!).filter((one) => !Number.isNaN(one));
    const chunk = await store
      .selectFrom('recording_chunks')
      .selectAll()
      .where('recording_id', '=', id)
      .where('channel', '=', 'source_voltage')
      .executeTakeFirstOrThrow();
    expect(chunk.known_count).toBe(known.length);
    expect(chunk.minimum).toBe(Math.min(...known));
    expect(chunk.maximum).toBe(Math.max(...known));
    expect(chunk.total).toBeCloseTo(
      known.reduce((a, b) => a + b, 0),
      6,
    );
  });

  test('seen from afar the extremes are those of the samples', async () => {
    const written = series(3 * CHUNK_SAMPLES);
    const id = await insertRecording(store, newRecording(jobId, written));
    const to = written.time[written.time.length - 1]! + 1;
    const near = await loadWindow(store, id, ['source_voltage'], START, to, 'samples');
    const extremes = (values: Float32Array) =>
      values.reduce(
        ([a, z], one) => (one === one ? [Math.min(a!, one), Math.max(z!, one)] : [a!, z!]),
        [Infinity, -Infinity],
      );
    for (const [detail, extents] of [
      ['summaries', (3 * CHUNK_SAMPLES) / 64],
      ['chunks', 3],
    ] as const) {
      const afar = await loadWindow(store, id, ['source_voltage'], START, to, detail);
      expect([detail, afar.time.length]).toEqual([detail, extents]);
      expect(afar.time[0]).toBe(START);
      expect(extremes(afar.channels.source_voltage!.min)[0]).toBe(
        extremes(near.channels.source_voltage!.min)[0],
      );
      expect(extremes(afar.channels.source_voltage!.max)[1]).toBe(
        extremes(near.channels.source_voltage!.max)[1],
      );
    }
    const tile = (await recordingTile(
      store,
      id,
      ['source_voltage'],
      12,
      Math.floor(START / (512 * 4_096_000)),
    ))!;
    expect(tile.length).toBe(1024);
    expect(extremes(tile)[1]).toBeLessThanOrEqual(13);
    expect(extremes(tile)[1]).toBeGreaterThan(12.9);
  });

  test('the same file for the same device is refused by the database, and nothing of it stays', async () => {
    await insertRecording(store, newRecording(jobId, series(10)));
    await expect(insertRecording(store, newRecording(jobId, series(10)))).rejects.toThrow(
      /recordings_same_file_once/,
    );
    const { n } = await store
      .selectFrom('recordings')
      .select(sql<number>`count(*)::integer`.as('n'))
      .executeTakeFirstOrThrow();
    expect(n).toBe(1);
  });

  test('an analysis replaces the one before; deleting the job deletes all of it', async () => {
    const result = diagnose({ job, system, series: [] });
    await saveAnalysis(store, jobId, { core: 'a', recordingIds: [], described: '1.1', result });
    const id = await insertRecording(store, newRecording(jobId, series(10)));
    await saveAnalysis(store, jobId, { core: 'b', recordingIds: [id], described: '2.1', result });
    expect((await findAnalyses(store, [jobId])).get(jobId)).toEqual({
      core: 'b',
      recordingIds: [id],
      described: '2.1',
      result,
    });
    await setJobRemoved(store, jobId, true);
    await clearRemoved(store, 0);
    for (const table of ['recordings', 'recording_chunks', 'analyses'] as const) {
      const { n } = await store
        .selectFrom(table)
        .select(sql<number>`count(*)::integer`.as('n'))
        .executeTakeFirstOrThrow();
      expect([table, n]).toEqual([table, 0]);
    }
  });

  test('a description is saved by whoever changed the version that stands; the other is given what stands', async () => {
    const { systemId } = (await findJob(store, jobId))!;
    const mine = { ...system, name: 'Mine' };
    expect(await saveSystem(store, systemId, 1, mine)).toEqual({ version: 2 });
    expect(await saveSystem(store, systemId, 1, { ...system, name: 'Late' })).toEqual({
      conflict: { version: 2, value: mine },
    });
    expect((await findJob(store, jobId))!).toMatchObject({ system: mine, systemVersion: 2, jobVersion: 1 });
    expect(await saveJob(store, jobId, 1, { ...job, title: 'New' })).toEqual({ version: 2 });
    expect(await saveJob(store, jobId, 1, job)).toMatchObject({ conflict: { version: 2 } });
    expect(await saveSystem(store, jobId, 1, mine)).toBeNull();
    expect(await saveJob(store, 'no id', 1, job)).toBeNull();
  });

  test('of two saves at once one is told', async () => {
    const { systemId } = (await findJob(store, jobId))!;
    const answers = await Promise.all(
      ['A', 'B', 'C', 'D'].map((name) => saveSystem(store, systemId, 1, { ...system, name })),
    );
    expect(answers.filter((one) => one && 'version' in one)).toHaveLength(1);
    expect(answers.filter((one) => one && 'conflict' in one)).toHaveLength(3);
  });

  test('a removed job is gone from the list and comes back whole; only long removed ones are cleared', async () => {
    await insertRecording(store, newRecording(jobId, series(10)));
    expect(await setJobRemoved(store, jobId, true)).toBe(true);
    expect(await findJob(store, jobId)).toBeNull();
    expect(await listJobs(store)).toEqual({ rows: [], next: null });
    expect(await saveJob(store, jobId, 1, job)).toBeNull();
    await clearRemoved(store, 30);
    expect(await setJobRemoved(store, jobId, false)).toBe(true);
    expect((await listJobs(store)).rows[0]).toMatchObject({ id: jobId, recordings: 1 });
    expect(await setJobRemoved(store, 'nothing', true)).toBe(false);
  });

  test('changes are kept in order and photos by their item, until they are removed', async () => {
    const { systemId } = (await findJob(store, jobId))!;
    const change = {
      path: 'monitor.chargedV',
      label: 'Monitor: Charged voltage',
      unit: 'V',
      before: 14.2,
      after: 13.9,
      why: 'x',
    };
    await insertChange(store, systemId, { ...change, on: '2026-10-01' });
    const later = await insertChange(store, systemId, {
      ...change,
      on: '2026-10-09',
      before: null,
      after: 'off',
    });
    expect((await listChanges(store, systemId)).map(({ on, before, after }) => [on, before, after])).toEqual([
      ['2026-10-09', null, 'off'],
      ['2026-10-01', 14.2, 13.9],
    ]);
    expect(await deleteChange(store, systemId, later)).toEqual({
      path: 'monitor.chargedV',
      before: null,
      after: 'off',
    });
    expect(await deleteChange(store, systemId, later)).toBeNull();

    const photo = (await insertPhoto(store, jobId, {
      item: 'joints',
      width: 4,
      height: 3,
      data: Buffer.from('jpeg'),
    }))!;
    expect(await listPhotos(store, jobId)).toEqual([photo]);
    expect((await findPhoto(store, photo.id))!.toString()).toBe('jpeg');
    // A photo that brings its own id and is sent twice is one; another job cannot have it.
    const own = randomUUID();
    const small = { item: 'cables', width: 2, height: 2, data: Buffer.from('again') };
    const twice = await Promise.all([1, 2].map(() => insertPhoto(store, jobId, small, own)));
    expect(twice.map((one) => one!.id)).toEqual([own, own]);
    expect((await listPhotos(store, jobId)).map((one) => one.id).sort()).toEqual([photo.id, own].sort());
    expect(await insertPhoto(store, await insertJob(store, systemId, job), small, own)).toBeNull();
    await setPhotoRemoved(store, own, true);
    await setPhotoRemoved(store, photo.id, true);
    expect(await listPhotos(store, jobId)).toEqual([]);
    await setPhotoRemoved(store, photo.id, false);
    expect(await listPhotos(store, jobId)).toEqual([photo]);
    await expect(
      insertPhoto(store, jobId, { item: 'joints', width: 1, height: 1, data: Buffer.alloc(3 << 20) }),
    ).rejects.toThrow();
  });

  test('a record that is sent twice is one; it comes off and back, and what was weighed with it is stale', async () => {
    const systemId = await insertSystem(store, system);
    const other = await insertSystem(store, system);
    const made = (on: string, id = randomUUID()) => ({
      kind: 'hydrometer-round' as const,
      record: { id, on, readings: [{ cell: '1A', gravity: 1.25 }] },
    });
    const versionOf = async () => (await findSystem(store, systemId))!.version;
    const roundsOf = async (id = systemId) => (await listRecords(store, id))['hydrometer-round'];
    const [late, early] = [made('2026-10-14'), made('2026-01-16')];
    for (const one of [late, early, late]) expect(await saveRecord(store, systemId, one)).toBe(true);
    expect((await roundsOf()).map((one) => one.on)).toEqual(['2026-01-16', '2026-10-14']);
    expect(await versionOf()).toBe(4);

    // Corrected, it replaces what was there; on another system, or of another kind, it is refused.
    const corrected = { ...early, record: { ...early.record, notes: 'The glass was rinsed.' } };
    expect(await saveRecord(store, systemId, corrected)).toBe(true);
    expect((await roundsOf())[0]!.notes).toBe('The glass was rinsed.');
    expect(await saveRecord(store, other, early)).toBe(false);
    expect(await roundsOf(other)).toEqual([]);
    const test = { ...capacityTest, id: early.record.id };
    expect(await saveRecord(store, systemId, { kind: 'capacity-test', record: test })).toBe(false);

    const before = await versionOf();
    const { id } = early.record;
    expect(await setRecordRemoved(store, other, id, true)).toBe(false);
    expect(await setRecordRemoved(store, systemId, id, true)).toBe(true);
    expect(await roundsOf()).toEqual([late.record]);
    expect(await setRecordRemoved(store, systemId, id, false)).toBe(true);
    expect(await roundsOf()).toHaveLength(2);
    expect(await versionOf()).toBe(before + 2);
    expect(await roundsOf('no id')).toEqual([]);
  });

  test('each kind of record has its own list', async () => {
    const systemId = await insertSystem(store, system);
    await insertRecords(store, systemId, { ...noRecords(), 'capacity-test': [capacityTest] });
    const { 'capacity-test': tests, 'hydrometer-round': rounds } = await listRecords(store, systemId);
    expect(rounds).toEqual([]);
    // It has an id of its own here: the same bundle opened twice is two systems.
    expect(tests).toEqual([{ ...capacityTest, id: expect.not.stringMatching(capacityTest.id) }]);
  });

  test('what the checklists found last on a system is that of its latest job that stands', async () => {
    const systemId = await insertSystem(store, system);
    expect(await latestChecks(store, systemId)).toBeUndefined();
    const checks = (answer: 'fine' | 'found') => ({ electrolyte: { answer } });
    await insertJob(store, systemId, { ...job, openedAt: '2026-01-01T00:00:00Z', checks: checks('found') });
    const later = await insertJob(store, systemId, {
      ...job,
      openedAt: '2026-06-01T00:00:00Z',
      checks: checks('fine'),
    });
    expect(await latestChecks(store, systemId)).toEqual(checks('fine'));
    await setJobRemoved(store, later, true);
    expect(await latestChecks(store, systemId)).toEqual(checks('found'));
  });

  test('a job keeps sixty photos, whoever sends them at the same time', async () => {
    const photo = { item: 'joints', width: 1, height: 1, data: Buffer.from('x') };
    const sent = await Promise.all(Array.from({ length: 64 }, () => insertPhoto(store, jobId, photo)));
    expect(sent.filter((one) => one !== null)).toHaveLength(60);
    const [first, second] = await listPhotos(store, jobId);
    expect(await setPhotoRemoved(store, first!.id, true)).toBe('done');
    expect(await insertPhoto(store, jobId, photo)).not.toBeNull();
    expect(await setPhotoRemoved(store, first!.id, false)).toBe('full');
    await setPhotoRemoved(store, second!.id, true);
    expect(await setPhotoRemoved(store, first!.id, false)).toBe('done');
    expect(await setPhotoRemoved(store, 'nobody', true)).toBe('gone');
  });

  const capacityTest: CapacityTest = {
    id: '00000000-0000-4000-8000-000000000001',
    on: '2026-03-11',
    from: 'typed',
    endedBy: 'end-voltage',
    ratedAh: 190,
    ratedHours: 10,
    exponent: 1.25,
    endVolts: 42,
    readings: [
      { minutes: 0, volts: 50, amps: 19 },
      { minutes: 590, volts: 42, amps: 19 },
    ],
  };

  describe('lists', () => {
    /** Jobs opened a day apart, every third on a system of its own. */
    async function many(count: number) {
      let systemId = '';
      for (let i = 0; i < count; i++) {
        if (i % 3 === 0)
          systemId = await insertSystem(store, {
            ...system,
            name: `Pier ${String(i).padStart(3, '0')}`,
            owner: i % 2 === 0 ? `Owner${i % 4}` : undefined,
          });
        await insertJob(store, systemId, {
          ...job,
          title: `Job ${i} 100%_done`,
          complaints: i % 2 === 0 ? ['undercharging'] : ['drifting-soc', 'premature-cutoff'],
          // Some at the very same moment.
          openedAt: `2026-${String(1 + (i % 12)).padStart(2, '0')}-01T00:00:00Z`,
        });
      }
    }
    async function all<T>(page: (after?: string) => Promise<{ rows: T[]; next: string | null }>) {
      const rows: T[] = [];
      for (let after: string | undefined; ;) {
        const { rows: some, next } = await page(after);
        rows.push(...some);
        if (next === null) return rows;
        expect(some).toHaveLength(PAGE);
        after = next;
      }
    }

    test('pages hold every job once, the latest first, and are narrowed by the database', async () => {
      await many(80);
      const jobs = await all((after) => listJobs(store, { after }));
      expect(new Set(jobs.map((one) => one.id)).size).toBe(81);
      const opened = jobs.map((one) => Date.parse(one.job.openedAt));
      expect(opened).toEqual([...opened].sort((a, b) => b - a));
      const titles = async (query: Parameters<typeof listJobs>[1]) =>
        (await all((after) => listJobs(store, { ...query, after }))).map((one) => one.job.title);
      expect(await titles({ complaint: 'drifting-soc' })).toHaveLength(40);
      expect(await titles({ search: 'job 79' })).toEqual(['Job 79 100%_done']);
      // Signs of the pattern stand for themselves.
      expect(await titles({ search: '0%_d' })).toHaveLength(80);
      expect(await titles({ search: '%d' })).toEqual([]);
      expect(await titles({ search: 'pier 003' })).toHaveLength(3);
      expect(await titles({ search: 'OWNER2' })).toHaveLength(20);
      // Each word counts, wherever it stands.
      expect(await titles({ search: 'dies  owner2 ' })).toEqual([]);
      expect(await titles({ search: 'job owner2 pier' })).toHaveLength(20);
      expect((await titles({ from: '2026-03-01', to: '2026-04-01' })).length).toBe(14);
      expect(await titles({ from: '2026-03-01', to: '2026-03-01', complaint: 'undercharging' })).toHaveLength(
        7,
      );
      const [one] = jobs;
      expect(await titles({ system: one!.systemId })).toContain(one!.job.title);
      await saveAnalysis(store, one!.id, {
        core: 'a',
        recordingIds: [],
        described: '',
        result: {
          ...diagnose({ job, system, series: [] }),
          findings: [{ title: 'Found', standing: 'likely' } as never],
        },
      });
      expect(await titles({ standing: 'likely' })).toEqual([one!.job.title]);
      expect((await listJobs(store, { standing: 'likely' })).rows[0]!.headline).toEqual({
        title: 'Found',
        standing: 'likely',
      });
      expect(await titles({ standing: 'strong' })).toEqual([]);
    });

    test('systems come by customer, those of nobody last, each with its latest jobs', async () => {
      await many(90);
      const systems = await all((after) => listSystems(store, { after }));
      expect(new Set(systems.map((one) => one.id)).size).toBe(31);
      const owners = systems.map((one) => one.system.owner ?? '\uffff');
      expect(owners).toEqual([...owners].sort());
      expect(systems.every((one) => one.count === one.jobs.length)).toBe(true);
      expect((await listSystems(store, { search: 'pier 087' })).rows.map((one) => one.system.name)).toEqual([
        'Pier 087',
      ]);
    });

    test('changes are paged from the last that was shown', async () => {
      const { systemId } = (await findJob(store, jobId))!;
      const change = { path: 'monitor.chargedV', label: 'x', unit: 'V', before: 1, after: 2, why: 'x' };
      for (let i = 0; i < 60; i++)
        await insertChange(store, systemId, {
          ...change,
          on: `2026-10-${String(1 + (i % 20)).padStart(2, '0')}`,
        });
      const first = await listChanges(store, systemId);
      const rest = await listChanges(store, systemId, { after: first.at(-1)!.id });
      expect([first.length, rest.length]).toEqual([50, 10]);
      expect(new Set([...first, ...rest].map((one) => one.id)).size).toBe(60);
    });
  });
});
