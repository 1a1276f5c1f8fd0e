/** Logs on their way in, against a real PostgreSQL and a worker: in parts, broken off, twice, overlapping, cancelled. */

import { gzipSync } from 'node:zlib';
import { sql } from 'kysely';
import { takeTestStore, testDatabaseUrl } from '../../tests/support/testStore';
import { demoJob } from '@/core/simulate/demo';
import type { Intake } from '@/core/log/intake';
import { problemsCsv } from '@/core/log/export/problems';
import type { Store } from '@/store/database';
import { answerIntake, clearIntakes, findIntake, listIntakes, removeIntake, takePart } from '@/store/intakes';
import { clearRemoved, findJob, insertJob, insertSystem, setJobRemoved, type StoredJob } from '@/store/jobs';
import { guardsOf } from '@/store/guard';
import { findRecipe } from '@/store/recipes';
import {
  findRecording,
  insertRecording,
  listRecordings,
  recordingProblems,
  setRecordingClocks,
  setRecordingRemoved,
  setUnweighed,
  undoReplacement,
} from '@/store/recordings';
import { loadSeries } from '@/store/samples';
import { firstRefusal } from '@/core/system/placeNames';
import type { Clock } from '@/core/log/clock';
import { beginIntake } from './beginIntake';
import { intakeRequestSchema } from './doors';
import { exportRecording, exportTimeline } from './exportRecording';
import { openJob } from './openJob';
import { collected, takenIn } from '../../tests/support/bundles';
import { bundleOfJob } from './jobBundle';
import { startWorker, type Worker } from './worker';

const { job, system } = demoJob('harbour-office');
const START = Date.UTC(2026, 8, 21);
const MINUTE = 60_000;

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** A monitor's log of so many minutes; `volts` tells files apart. */
const log = (from: number, minutes: number, volts: number): Buffer =>
  Buffer.from(
    'time,battery voltage (V),battery current (A)\n' +
      Array.from(
        { length: minutes },
        (_, i) =>
          `${new Date(START + (from + i) * MINUTE).toISOString().slice(0, 19)}Z,${volts.toFixed(2)},${(i % 7) - 3}\n`,
      ).join(''),
  );

(testDatabaseUrl ? describe : describe.skip)('taking in', () => {
  let store: Store;
  let release: () => Promise<void>;
  let worker: Worker;
  let stored: StoredJob;

  beforeAll(async () => {
    ({ store, release } = await takeTestStore());
    worker = await startWorker(testDatabaseUrl!);
  }, 60_000);
  beforeEach(async () => {
    await store.deleteFrom('systems').execute();
    stored = (await findJob(store, await insertJob(store, await insertSystem(store, system), job)))!;
  });
  afterAll(async () => {
    await worker.stop();
    await release();
  });

  const begin = (size: number, fileName = 'monitor.csv', modified = 7): Promise<Intake> =>
    beginIntake(store, stored, { fileName, size, modified, description: { device: 'monitor' } });
  const setClock = (id: string, clock: Clock) => setRecordingClocks(store, [{ id, clock }]);
  async function until(id: string, state: Intake['state']): Promise<Intake> {
    for (let i = 0; i < 150; i++) {
      const now = (await findIntake(store, id))!;
      if (now.state === state) return now;
      if (now.state === 'failed') throw new Error(now.problem!);
      await new Promise((done) => setTimeout(done, 100));
    }
    throw new Error(`It never was ${state}.`);
  }
  /** Sends a whole file and waits for the state. */
  async function send(bytes: Buffer, state: Intake['state'], fileName?: string): Promise<Intake> {
    const { id } = await begin(bytes.length, fileName);
    await takePart(store, id, 0, bytes);
    return until(id, state);
  }

  test('parts may come again and must follow each other; a broken-off file is gone on with', async () => {
    const bytes = log(0, 200, 25.1);
    const { id, received } = await begin(bytes.length);
    expect(received).toBe(0);
    expect(await takePart(store, id, 0, bytes.subarray(0, 1000))).toEqual({ received: 1000 });
    expect(await takePart(store, id, 0, bytes.subarray(0, 1000))).toBe('elsewhere');
    expect(await takePart(store, id, 2000, bytes.subarray(2000, 2100))).toBe('elsewhere');
    // The same file chosen again goes on where it was; another of the same name and size does not.
    expect(await begin(bytes.length)).toMatchObject({ id, received: 1000, state: 'receiving' });
    expect((await begin(bytes.length, 'monitor.csv', 8)).id).not.toBe(id);
    expect(await takePart(store, id, 1000, Buffer.alloc(bytes.length))).toBe('too-long');
    expect(await takePart(store, id, 1000, bytes.subarray(1000))).toEqual({ received: bytes.length });
    await until(id, 'done');
    const [recording] = await listRecordings(store, stored.id);
    expect(recording).toMatchObject({ device: 'monitor', fileName: 'monitor.csv', sampleCount: 200 });
    // Of the file itself nothing stays behind.
    expect(await store.selectFrom('intake_parts').select('at').execute()).toEqual([]);
    expect(await takePart(store, 'not-an-id', 0, bytes)).toBe('gone');
  });

  test('what cannot be taken in is said, and the same file comes in once', async () => {
    await expect(
      beginIntake(store, stored, {
        fileName: 'a.csv',
        size: 10,
        modified: 0,
        description: { device: 'wind' },
      }),
    ).rejects.toThrow(/no device “wind”/);
    const post = (part: object) =>
      intakeRequestSchema.safeParse({
        fileName: 'a.csv',
        size: 10,
        description: { device: 'monitor' },
        ...part,
      });
    const refusal = (part: object) => firstRefusal(post(part).error!);
    expect(post({}).success).toBe(true);
    expect(refusal({ description: { device: 'monitor', timeZone: 'Nowhere' } })).toMatch(/not a time zone/);
    expect(refusal({ description: { device: 'monitor', clockOffsetSeconds: 1e12 } })).toMatch(/150 years/);
    expect(refusal({ description: { device: 'monitor', clockDriftSecondsPerDay: 86_400 } })).toMatch(
      /hour a day/,
    );
    expect(refusal({ size: 0 })).toMatch(/empty/);
    expect(refusal({ size: 5e9 })).toMatch(/4 GB/);
    await expect(send(Buffer.from('<html></html>'), 'done')).rejects.toThrow(/web page/);
    expect((await listIntakes(store, stored.id)).map((one) => one.state)).toEqual(['failed']);
    await send(log(0, 60, 25), 'done');
    await expect(send(log(0, 60, 25), 'done', 'copy.csv')).rejects.toThrow(
      /taken in already for Battery monitor|taken in already/,
    );
    expect(await listRecordings(store, stored.id)).toHaveLength(1);
  });

  test('a log that overlaps an earlier one asks; merged, it keeps every moment and can be undone', async () => {
    await send(log(0, 100, 25), 'done');
    const [first] = await listRecordings(store, stored.id);
    await setClock(first!.id, { timeZone: 'UTC', offsetSeconds: -60, secondsPerDay: 0 });
    const { id, question } = await send(log(50, 100, 26), 'asking', 'august.csv');
    expect(question).toMatchObject({
      kind: 'overlap',
      with: [{ id: first!.id, fileName: 'monitor.csv', from: START + 50 * MINUTE }],
    });
    expect(await answerIntake(store, id, 'merge')).toBe(true);
    await until(id, 'done');
    expect(await answerIntake(store, id, 'merge')).toBe(false);
    const [merged, ...others] = await listRecordings(store, stored.id);
    expect(others).toEqual([]);
    expect(merged).toMatchObject({ sampleCount: 150, replaces: [first!.id], clock: { offsetSeconds: -60 } });
    expect(merged!.problems[0]!.reason).toMatch(
      /50 of 50 moments that monitor.csv holds too are told otherwise/,
    );
    const { time, channels } = await loadSeries(store, merged!.id);
    expect(time[0]).toBe(START - MINUTE);
    expect(channels.battery_voltage![49]).toBe(25);
    expect(channels.battery_voltage![50]).toBe(26);
    expect(await undoReplacement(store, merged!.id)).toBe('done');
    expect((await listRecordings(store, stored.id)).map((one) => one.id)).toEqual([first!.id]);
    expect(await undoReplacement(store, merged!.id)).toBe('gone');
  });

  test.each([
    ['read in the same zone as the first, it follows the zone that was set for that', undefined],
    ['read in a zone of its own, it keeps it', 'UTC'],
  ])('merged with a log whose zone was set by hand: %s', async (_, timeZone) => {
    const local = (bytes: Buffer) => Buffer.from(bytes.toString().replaceAll('Z,', ','));
    await send(local(log(0, 600, 25)), 'done');
    const [first] = await listRecordings(store, stored.id);
    expect(first).toMatchObject({ zoned: true, from: START - 120 * MINUTE });
    await setClock(first!.id, { timeZone: 'UTC', offsetSeconds: 30, secondsPerDay: 0 });
    // A multiple of seven minutes on, so that both tell the shared moments alike.
    const bytes = local(log(301, 600, 25));
    const description = { device: 'monitor', ...(timeZone ? { timeZone } : {}) };
    const { id } = await beginIntake(store, stored, {
      fileName: 'b.csv',
      size: bytes.length,
      modified: 0,
      description,
    });
    await takePart(store, id, 0, bytes);
    await until(id, 'asking');
    await answerIntake(store, id, 'merge');
    await until(id, 'done');
    const [merged] = await listRecordings(store, stored.id);
    expect(merged).toMatchObject({
      sampleCount: 901,
      from: START + 30_000,
      to: START + 900 * MINUTE + 30_000,
    });
    expect(merged!.clock).toEqual({ timeZone: 'UTC', offsetSeconds: 30, secondsPerDay: 0 });
    expect(merged!.problemCount).toBe(0);
  });

  test('replaced, the earlier one is taken away', async () => {
    await send(log(0, 100, 25), 'done');
    const { id } = await send(log(50, 100, 26), 'asking', 'august.csv');
    await answerIntake(store, id, 'replace');
    await until(id, 'done');
    expect(await listRecordings(store, stored.id)).toMatchObject([
      { fileName: 'august.csv', sampleCount: 100 },
    ]);
  });

  test('a cancelled log leaves nothing, whenever it is cancelled', async () => {
    const bytes = log(0, 60_000, 25);
    const half = await begin(bytes.length);
    await takePart(store, half.id, 0, bytes.subarray(0, 5000));
    expect(await removeIntake(store, half.id)).toBe(true);
    expect(await takePart(store, half.id, 5000, bytes.subarray(5000))).toBe('gone');
    const { id } = await send(bytes, 'reading');
    expect(await removeIntake(store, id)).toBe(true);
    await new Promise((done) => setTimeout(done, 1500));
    expect(await listRecordings(store, stored.id)).toEqual([]);
    expect(await store.selectFrom('intake_parts').select('at').execute()).toEqual([]);
    expect(await removeIntake(store, id)).toBe(false);
  });

  test('a log whose worker has gone is taken up again; one that is in work is left alone', async () => {
    const bytes = log(0, 100, 25);
    const { id } = await begin(bytes.length);
    // As a worker leaves it that was killed: taken off the queue, the state set, the lock gone with its connection.
    const guards = guardsOf(testDatabaseUrl!);
    const guard = (await guards.take(id))!;
    expect(await guards.take(id)).toBeNull();
    await takePart(store, id, 0, bytes);
    await new Promise((done) => setTimeout(done, 1200));
    await store.updateTable('intakes').set({ state: 'reading' }).where('id', '=', id).execute();
    await new Promise((done) => setTimeout(done, 5500));
    expect(await findIntake(store, id)).toMatchObject({ state: 'reading' });
    await guard.release();
    await until(id, 'done');
    await guards.end();
    expect(await listRecordings(store, stored.id)).toHaveLength(1);
  }, 30_000);

  test('rows with a problem are kept with their line, and written out', async () => {
    const text = log(0, 5, 25).toString() + '2026-09-21T01:00:00Z,"oo""ps",1\n\n2026-13-45,25.1,2\n';
    await send(Buffer.from(text), 'done');
    const { id } = (await listRecordings(store, stored.id))[0]!;
    const found = (await recordingProblems(store, id))!;
    expect(problemsCsv(found.problems, found.problemCount + 3).split('\r\n')).toEqual([
      'line,reason,row',
      '7,"""oo""""ps"" in ""battery voltage (V)"" is not a number; the cell is taken as missing.","2026-09-21T01:00:00Z,""oo""""ps"",1"',
      '9,"No time could be read in ""2026-13-45,25.1,2""; the row is left out.","2026-13-45,25.1,2"',
      ',3 more are not listed.,',
      '',
    ]);
    expect(await recordingProblems(store, '00000000-0000-4000-8000-000000000000')).toBeNull();
  });

  test('a clock that was set can be set back, and travels with the bundle', async () => {
    await send(log(0, 20_000, 25), 'done');
    const { id } = (await listRecordings(store, stored.id))[0]!;
    const before = await loadSeries(store, id);
    const clock = { timeZone: 'UTC', offsetSeconds: 90, secondsPerDay: -4.5 };
    expect(await setClock(id, clock)).toMatchObject([{ id, clock: { offsetSeconds: 0 } }]);
    const set = await loadSeries(store, id);
    expect(set.time[0]).toBe(START + 90_000);
    expect(set.time.at(-1)! - before.time.at(-1)!).toBe(Math.round(90_000 - (4500 * 19_999) / 1440));
    expect(await listRecordings(store, stored.id)).toMatchObject([
      { clock, clockVersion: 2, from: set.time[0], to: set.time.at(-1) },
    ]);
    expect((await loadSeries(store, id, true)).time).toEqual(before.time);
    const elsewhere = await takenIn(store, await collected(await bundleOfJob(store, stored.id)));
    while ((await listIntakes(store, elsewhere)).length > 0) await pause(100);
    const [there] = await listRecordings(store, elsewhere);
    expect(there!.clock).toEqual({ ...clock, timeZone: system.timeZone });
    expect((await loadSeries(store, there!.id)).time).toEqual(set.time);
    await setClock(id, { timeZone: 'UTC', offsetSeconds: 0, secondsPerDay: 0 });
    expect((await loadSeries(store, id)).time).toEqual(before.time);
    expect(await setClock('nobody', clock)).toBe('gone');
    expect(await setClock(id, { ...clock, offsetSeconds: -100 * 365 * 86_400 })).toBe('no-time');
    expect((await loadSeries(store, id)).time).toEqual(before.time);
  });

  test('a confirmed reading is kept as a recipe; intakes that are over are cleared after a week', async () => {
    const columns = { volts: { channel: 'battery_voltage' } };
    await beginIntake(store, stored, {
      fileName: 'july.csv',
      size: 100,
      modified: 0,
      description: { device: 'monitor', columns, dateOrder: 'dmy' },
      recipeKey: 'a key',
    });
    expect(await findRecipe(store, 'a key')).toMatchObject({
      recipe: { columns, dateOrder: 'dmy' },
      fileName: 'july.csv',
    });
    expect(await findRecipe(store, 'another')).toBeNull();
    await store
      .updateTable('intakes')
      .set({ changed_at: sql<Date>`now() - interval '8 days'` })
      .execute();
    await clearIntakes(store);
    expect(await listIntakes(store, stored.id)).toEqual([]);
  });

  test('a device that nobody has described is made with its first log, or not at all', async () => {
    const bare = { name: 'Bare', timeZone: 'UTC', bank: {}, sources: [], loads: [] };
    const systemId = await insertSystem(store, bare);
    const opened = (await findJob(store, await insertJob(store, systemId, job)))!;
    const ask = (device: string, newDevice?: 'source' | 'monitor' | 'bms') =>
      beginIntake(store, opened, {
        fileName: `${device}.csv`,
        size: 10,
        modified: 0,
        description: { device },
        newDevice,
      });
    await expect(ask('charger')).rejects.toThrow(/no device “charger”/);
    await ask('charger', 'source');
    const { system: made, systemVersion } = (await findJob(store, opened.id))!;
    expect([systemVersion, made.sources]).toEqual([
      2,
      [{ id: 'charger', name: 'Charger', profile: {}, counted: null }],
    ]);
    // Against what somebody has changed meanwhile nothing is made.
    await expect(ask('monitor', 'monitor')).rejects.toThrow(/just changed this system/);
    expect((await findJob(store, opened.id))!.system.monitor).toBeUndefined();
    expect(await listIntakes(store, opened.id)).toHaveLength(1);
  });

  test('logs of one device that are sent at once never lie beside each other: the second asks', async () => {
    for (let round = 0; round < 5; round++) {
      const ids = await Promise.all(
        [0, 1].map(async (nth) => {
          const bytes = log(1000 * round + 50 * nth, 100, 25 + nth);
          const { id } = await begin(bytes.length, `${round}-${nth}.csv`);
          await takePart(store, id, 0, bytes);
          return id;
        }),
      );
      const states: string[] = [];
      while (states.length < 2) {
        states.length = 0;
        for (const id of ids) {
          const { state } = (await findIntake(store, id))!;
          if (['done', 'asking', 'failed'].includes(state)) states.push(state);
        }
        await pause(50);
      }
      expect(states.sort()).toEqual(['asking', 'done']);
    }
    expect(await listRecordings(store, stored.id)).toHaveLength(5);
  }, 60_000);

  test('the database itself lets no two logs of a device overlap', async () => {
    await send(log(0, 100, 25), 'done');
    const [first] = await listRecordings(store, stored.id);
    const series = await loadSeries(store, first!.id);
    const row = await store.selectFrom('recordings').select('plan').executeTakeFirstOrThrow();
    const another = { ...series, time: series.time.map((ms) => ms + 50 * MINUTE) };
    const insert = (device: string) =>
      insertRecording(store, {
        jobId: stored.id,
        fileName: 'b.csv',
        sha256: device.padEnd(64, 'b').slice(0, 64),
        plan: row.plan,
        rowCount: 100,
        problemCount: 0,
        problems: [],
        series: { ...another, device },
        zoned: false,
        clock: first!.clock,
      });
    await expect(insert('monitor')).rejects.toThrow(/recordings_apart/);
    await insert('mains');
    // Two logs of a device pass each other while their clock is set, but do not stay on top of each other.
    const { id } = await send(log(100, 100, 26), 'done', 'later.csv');
    const second = (await listRecordings(store, stored.id)).find((one) => one.fileName === 'later.csv')!;
    const by = (seconds: number) => ({ timeZone: 'UTC', offsetSeconds: seconds, secondsPerDay: 0 });
    expect(await setClock(first!.id, by(3600))).toBe('overlap');
    expect(
      await setRecordingClocks(store, [
        { id: first!.id, clock: by(3600) },
        { id: second.id, clock: by(3600) },
      ]),
    ).toHaveLength(2);
    expect(id).toBeDefined();
  });

  test('what was replaced cannot be put back beside what replaced it', async () => {
    await send(log(0, 100, 25), 'done');
    const [first] = await listRecordings(store, stored.id);
    const { id } = await send(log(50, 100, 26), 'asking', 'august.csv');
    expect(await answerIntake(store, id, 'keep')).toBe(false);
    await answerIntake(store, id, 'replace');
    await until(id, 'done');
    expect(await setRecordingRemoved(store, first!.id, false)).toBe('taken');
    const [second] = await listRecordings(store, stored.id);
    expect(second!.replaces).toEqual([first!.id]);
    // Cleared away for good, it cannot be put back, and what replaced it stays.
    await store.deleteFrom('recordings').where('id', '=', first!.id).execute();
    expect((await listRecordings(store, stored.id))[0]!.replaces).toEqual([]);
    expect(await undoReplacement(store, second!.id)).toBe('gone');
    expect(await listRecordings(store, stored.id)).toHaveLength(1);
  });

  test('one file has one way in, whoever opens it at the same time', async () => {
    const begun = await Promise.all(Array.from({ length: 6 }, () => begin(500)));
    expect(new Set(begun.map((one) => one.id)).size).toBe(1);
    await expect(
      store
        .insertInto('intake_parts')
        .values({ intake_id: begun[0]!.id, at: 100, data: Buffer.from('x') })
        .execute(),
    ).rejects.toThrow(/intake_parts_contiguous/);
    await expect(
      store
        .updateTable('intakes')
        .set({ state: 'lost' as never })
        .execute(),
    ).rejects.toThrow(/intakes_state/);
  });

  test('of a removed job nothing is read, sent or set; put back, its logs go on', async () => {
    await send(log(0, 100, 25), 'done');
    const [recording] = await listRecordings(store, stored.id);
    const bytes = log(200, 100, 25);
    const half = await begin(bytes.length, 'half.csv');
    await takePart(store, half.id, 0, bytes.subarray(0, 100));
    await worker.stop();
    const whole = log(400, 100, 25);
    const waiting = await begin(whole.length, 'waiting.csv');
    await takePart(store, waiting.id, 0, whole);
    await setJobRemoved(store, stored.id, true);
    worker = await startWorker(testDatabaseUrl!);
    await pause(2500);
    expect(await store.selectFrom('intakes').select('state').where('id', '=', waiting.id).execute()).toEqual([
      { state: 'waiting' },
    ]);
    expect(await findIntake(store, waiting.id)).toBeNull();
    expect(await takePart(store, half.id, 100, bytes.subarray(100))).toBe('gone');
    expect(await setClock(recording!.id, recording!.clock)).toBe('gone');
    expect(await findRecording(store, recording!.id)).toBeUndefined();
    await expect(exportRecording(store, recording!.id, 'csv', null)).rejects.toThrow(/no such recording/);
    await expect(exportTimeline(store, stored.id, 'csv', null)).rejects.toThrow(/no such job/);
    expect(await setRecordingRemoved(store, recording!.id, true)).toBe('gone');
    await setJobRemoved(store, stored.id, false);
    await until(waiting.id, 'done');
    expect(await takePart(store, half.id, 100, bytes.subarray(100))).toEqual({ received: bytes.length });
    await until(half.id, 'done');
    expect(await listRecordings(store, stored.id)).toHaveLength(3);
  }, 30_000);

  test('a log that runs astray asks, and is read as answered', async () => {
    const rows = log(0, 300, 25).toString().split('\n');
    const astray = Buffer.from(
      rows.map((row, i) => (i > 200 ? row.replace('2026', '2001') : row)).join('\n'),
    );
    const { id, question } = await send(astray, 'asking', 'astray.csv');
    expect(question).toMatchObject({ kind: 'stray-rows', rows: 100, of: 300 });
    expect(await answerIntake(store, id, 'merge')).toBe(false);
    expect(await answerIntake(store, id, 'leave-out')).toBe(true);
    await until(id, 'done');
    expect(await listRecordings(store, stored.id)).toMatchObject([{ sampleCount: 200, problemCount: 100 }]);
  });

  test('a cut gzip asks, and what was whole is kept', async () => {
    const packed = gzipSync(log(0, 20_000, 25));
    const { id, question } = await send(packed.subarray(0, packed.length >> 1), 'asking', 'cut.csv.gz');
    expect(question).toMatchObject({ kind: 'damaged' });
    await answerIntake(store, id, 'keep-whole-rows');
    await until(id, 'done');
    const [kept] = await listRecordings(store, stored.id);
    expect(kept!.sampleCount).toBeGreaterThan(5000);
    expect(kept!.problems.at(-1)!.reason).toMatch(/damaged after row \d+: what came before was kept/);
  });

  test('a log with one row a century ahead is in at once, and its job is weighed', async () => {
    const rows = log(0, 400, 25).toString().split('\n');
    rows[200] = rows[200]!.replace('2026', '2126');
    const started = Date.now();
    await send(Buffer.from(rows.join('\n')), 'done', 'year.csv');
    expect(Date.now() - started).toBeLessThan(5000);
    const [recording] = await listRecordings(store, stored.id);
    expect(recording).toMatchObject({ sampleCount: 399, problemCount: 1, unweighed: null });
    expect(recording!.to - recording!.from).toBeLessThan(400 * MINUTE);
  });

  test('what was removed is cleared after its time, and nothing else', async () => {
    await send(log(0, 50, 25), 'done');
    await send(log(100, 50, 25), 'done', 'b.csv');
    const [first, second] = await listRecordings(store, stored.id);
    await setRecordingRemoved(store, first!.id, true);
    const count = async () => (await store.selectFrom('recordings').select('id').execute()).length;
    await clearRemoved(store, 7);
    expect(await count()).toBe(2);
    await store
      .updateTable('recordings')
      .set({ removed_at: sql<Date>`now() - interval '8 days'` })
      .where('id', '=', first!.id)
      .execute();
    await clearRemoved(store, 7);
    expect((await listRecordings(store, stored.id)).map((one) => one.id)).toEqual([second!.id]);
    expect(await count()).toBe(1);
  });

  test('a recording that cannot be weighed says so, is left out, and can be removed', async () => {
    await send(log(0, 50, 25), 'done');
    const [recording] = await listRecordings(store, stored.id);
    await setUnweighed(store, recording!.id, 'It is kept, but left out.');
    const open = (await openJob(store, stored.id))!;
    expect(open.recordings).toMatchObject([{ unweighed: 'It is kept, but left out.' }]);
    expect([open.notWeighed, open.diagnosis.charges]).toEqual([null, []]);
    // By another clock it is tried again.
    await setClock(recording!.id, { timeZone: 'UTC', offsetSeconds: 5, secondsPerDay: 0 });
    expect((await listRecordings(store, stored.id))[0]!.unweighed).toBeNull();
    expect(await setRecordingRemoved(store, recording!.id, true)).toBe('done');
  });
});
