/** Logs on their way in, against a real PostgreSQL and a worker: in parts, broken off, twice, overlapping, cancelled. */

import { sql } from 'kysely';
import { takeTestStore, testDatabaseUrl } from '../../tests/support/testStore';
import { demoJob } from '@/core/simulate/demo';
import type { Intake } from '@/core/log/intake';
import { problemsCsv } from '@/core/log/export/problems';
import type { Store } from '@/store/database';
import {
  answerOverlap,
  clearIntakes,
  findIntake,
  listIntakes,
  removeIntake,
  takePart,
} from '@/store/intakes';
import { findJob, insertJob, insertSystem, type StoredJob } from '@/store/jobs';
import { takeGuard } from '@/store/guard';
import { findRecipe } from '@/store/recipes';
import { listRecordings, recordingProblems, setRecordingClock, undoReplacement } from '@/store/recordings';
import { loadSeries } from '@/store/samples';
import { beginIntake } from './beginIntake';
import { bundleOfJob, jobFromBundle } from './jobBundle';
import { takeInWhole } from './takeInWhole';
import { startWorker, type Worker } from './worker';

const { job, system } = demoJob('harbour-office');
const START = Date.UTC(2026, 8, 21);
const MINUTE = 60_000;

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

  const begin = async (size: number, fileName = 'monitor.csv', modified = 7): Promise<Intake> => {
    const begun = await beginIntake(store, stored, {
      fileName,
      size,
      modified,
      description: { device: 'monitor' },
    });
    if ('refused' in begun) throw new Error(begun.refused);
    return begun;
  };
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
    const refused = (part: object) =>
      beginIntake(store, stored, {
        fileName: 'a.csv',
        size: 10,
        modified: 0,
        description: { device: 'monitor' },
        ...part,
      });
    expect(await refused({ description: { device: 'wind' } })).toEqual({
      refused: expect.stringContaining('no device "wind"'),
    });
    expect(await refused({ description: { device: 'monitor', timeZone: 'Nowhere' } })).toEqual({
      refused: expect.stringContaining('not a time zone'),
    });
    expect(await refused({ size: 0 })).toEqual({ refused: expect.stringContaining('empty') });
    expect(await refused({ size: 5e9 })).toEqual({ refused: expect.stringContaining('4 GB') });
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
    await setRecordingClock(store, first!.id, { timeZone: 'UTC', offsetSeconds: -60, secondsPerDay: 0 });
    const { id, question } = await send(log(50, 100, 26), 'asking', 'august.csv');
    expect(question).toMatchObject([{ id: first!.id, fileName: 'monitor.csv', from: START + 50 * MINUTE }]);
    expect(await answerOverlap(store, id, 'merge')).toBe(true);
    await until(id, 'done');
    expect(await answerOverlap(store, id, 'merge')).toBe(false);
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
    expect(await undoReplacement(store, merged!.id)).toBe(true);
    expect((await listRecordings(store, stored.id)).map((one) => one.id)).toEqual([first!.id]);
    expect(await undoReplacement(store, merged!.id)).toBe(false);
  });

  test.each([
    ['read in the same zone as the first, it follows the zone that was set for that', undefined],
    ['read in a zone of its own, it keeps it', 'UTC'],
  ])('merged with a log whose zone was set by hand: %s', async (_, timeZone) => {
    const local = (bytes: Buffer) => Buffer.from(bytes.toString().replaceAll('Z,', ','));
    await send(local(log(0, 600, 25)), 'done');
    const [first] = await listRecordings(store, stored.id);
    expect(first).toMatchObject({ zoned: true, from: START - 120 * MINUTE });
    await setRecordingClock(store, first!.id, { timeZone: 'UTC', offsetSeconds: 30, secondsPerDay: 0 });
    // A multiple of seven minutes on, so that both tell the shared moments alike.
    const bytes = local(log(301, 600, 25));
    const description = { device: 'monitor', ...(timeZone ? { timeZone } : {}) };
    const begun = await beginIntake(store, stored, {
      fileName: 'b.csv',
      size: bytes.length,
      modified: 0,
      description,
    });
    const { id } = begun as Intake;
    await takePart(store, id, 0, bytes);
    await until(id, 'asking');
    await answerOverlap(store, id, 'merge');
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
    await answerOverlap(store, id, 'replace');
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
    const guard = (await takeGuard(testDatabaseUrl!, id))!;
    await takePart(store, id, 0, bytes);
    await new Promise((done) => setTimeout(done, 1200));
    await store.updateTable('intakes').set({ state: 'reading' }).where('id', '=', id).execute();
    await new Promise((done) => setTimeout(done, 5500));
    expect(await findIntake(store, id)).toMatchObject({ state: 'reading' });
    await guard.release();
    await until(id, 'done');
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
    expect(await setRecordingClock(store, id, clock)).toMatchObject({ offsetSeconds: 0 });
    const set = await loadSeries(store, id);
    expect(set.time[0]).toBe(START + 90_000);
    expect(set.time.at(-1)! - before.time.at(-1)!).toBe(Math.round(90_000 - (4500 * 19_999) / 1440));
    expect(await listRecordings(store, stored.id)).toMatchObject([
      { clock, clockVersion: 2, from: set.time[0], to: set.time.at(-1) },
    ]);
    expect((await loadSeries(store, id, true)).time).toEqual(before.time);
    const elsewhere = await jobFromBundle(store, (await bundleOfJob(store, stored.id))!.zip);
    const [there] = await listRecordings(store, elsewhere.id);
    expect(there!.clock).toEqual({ ...clock, timeZone: system.timeZone });
    expect((await loadSeries(store, there!.id)).time).toEqual(set.time);
    await setRecordingClock(store, id, { timeZone: 'UTC', offsetSeconds: 0, secondsPerDay: 0 });
    expect((await loadSeries(store, id)).time).toEqual(before.time);
    expect(await setRecordingClock(store, 'nobody', clock)).toBeNull();
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

  test('a whole log waits for its worker and says what went wrong', async () => {
    expect(await takeInWhole(store, stored, 'a.csv', { device: 'monitor' }, log(0, 30, 25))).toBeNull();
    expect(await takeInWhole(store, stored, 'b.csv', { device: 'monitor' }, log(10, 30, 25))).toMatch(
      /overlaps another log/,
    );
    expect(await takeInWhole(store, stored, 'c.csv', { device: 'monitor' }, Buffer.from('%PDF-1.7'))).toMatch(
      /PDF/,
    );
  });
});
