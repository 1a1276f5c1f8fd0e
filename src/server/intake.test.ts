/** Logs on their way in, against a real PostgreSQL and a worker: in parts, broken off, twice, overlapping, cancelled. */

import { sql } from 'kysely';
import { testDatabaseUrl } from '../../tests/support/testStore';
import { problemsCsv } from '@/core/log/export/problems';
import { answerIntake, clearIntakes, findIntake, listIntakes, removeIntake, takePart } from '@/store/intakes';
import { findJob, insertJob, insertSystem } from '@/store/jobs';
import { guardsOf } from '@/store/guard';
import { findRecipe } from '@/store/recipes';
import { listRecordings, recordingProblems, undoReplacement } from '@/store/recordings';
import { loadSeries } from '@/store/samples';
import { firstRefusal } from '@/core/system/placeNames';
import { beginIntake } from './beginIntake';
import { intakeRequestSchema } from './doors';
import { collected, takenIn } from '../../tests/support/bundles';
import { bundleOfJob } from './jobBundle';
import { job, log, MINUTE, pause, START, system, takingIn } from '../../tests/support/takingIn';

(testDatabaseUrl ? describe : describe.skip)('taking in', () => {
  const at = takingIn();
  const { begin, setClock, until, send } = at;

  test('parts may come again and must follow each other; a broken-off file is gone on with', async () => {
    const bytes = log(0, 200, 25.1);
    const { id, received } = await begin(bytes.length);
    expect(received).toBe(0);
    expect(await takePart(at.store, id, 0, bytes.subarray(0, 1000))).toEqual({ received: 1000 });
    expect(await takePart(at.store, id, 0, bytes.subarray(0, 1000))).toBe('elsewhere');
    expect(await takePart(at.store, id, 2000, bytes.subarray(2000, 2100))).toBe('elsewhere');
    // The same file chosen again goes on where it was; another of the same name and size does not.
    expect(await begin(bytes.length)).toMatchObject({ id, received: 1000, state: 'receiving' });
    expect((await begin(bytes.length, 'monitor.csv', 8)).id).not.toBe(id);
    expect(await takePart(at.store, id, 1000, Buffer.alloc(bytes.length))).toBe('too-long');
    expect(await takePart(at.store, id, 1000, bytes.subarray(1000))).toEqual({ received: bytes.length });
    await until(id, 'done');
    const [recording] = await listRecordings(at.store, at.stored.id);
    expect(recording).toMatchObject({ device: 'monitor', fileName: 'monitor.csv', sampleCount: 200 });
    // Of the file itself nothing stays behind.
    expect(await at.store.selectFrom('intake_parts').select('at').execute()).toEqual([]);
    expect(await takePart(at.store, 'not-an-id', 0, bytes)).toBe('gone');
  });

  test('what cannot be taken in is said, and the same file comes in once', async () => {
    await expect(
      beginIntake(at.store, at.stored, {
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
    expect((await listIntakes(at.store, at.stored.id)).map((one) => one.state)).toEqual(['failed']);
    await send(log(0, 60, 25), 'done');
    await expect(send(log(0, 60, 25), 'done', 'copy.csv')).rejects.toThrow(
      /taken in already for Battery monitor|taken in already/,
    );
    expect(await listRecordings(at.store, at.stored.id)).toHaveLength(1);
  });

  test('a log that overlaps an earlier one asks; merged, it keeps every moment and can be undone', async () => {
    await send(log(0, 100, 25), 'done');
    const [first] = await listRecordings(at.store, at.stored.id);
    await setClock(first!.id, { timeZone: 'UTC', offsetSeconds: -60, secondsPerDay: 0 });
    const { id, question } = await send(log(50, 100, 26), 'asking', 'august.csv');
    expect(question).toMatchObject({
      kind: 'overlap',
      with: [{ id: first!.id, fileName: 'monitor.csv', from: START + 50 * MINUTE }],
    });
    expect(await answerIntake(at.store, id, 'merge')).toBe(true);
    await until(id, 'done');
    expect(await answerIntake(at.store, id, 'merge')).toBe(false);
    const [merged, ...others] = await listRecordings(at.store, at.stored.id);
    expect(others).toEqual([]);
    expect(merged).toMatchObject({ sampleCount: 150, replaces: [first!.id], clock: { offsetSeconds: -60 } });
    expect(merged!.problems[0]!.reason).toMatch(
      /50 of 50 moments in this file are in monitor.csv too, with other values/,
    );
    const { time, channels } = await loadSeries(at.store, merged!.id);
    expect(time[0]).toBe(START - MINUTE);
    expect(channels.battery_voltage![49]).toBe(25);
    expect(channels.battery_voltage![50]).toBe(26);
    expect(await undoReplacement(at.store, merged!.id)).toBe('done');
    expect((await listRecordings(at.store, at.stored.id)).map((one) => one.id)).toEqual([first!.id]);
    expect(await undoReplacement(at.store, merged!.id)).toBe('gone');
  });

  test.each([
    ['read in the same zone as the first, it follows the zone that was set for that', undefined],
    ['read in a zone of its own, it keeps it', 'UTC'],
  ])('merged with a log whose zone was set by hand: %s', async (_, timeZone) => {
    const local = (bytes: Buffer) => Buffer.from(bytes.toString().replaceAll('Z,', ','));
    await send(local(log(0, 600, 25)), 'done');
    const [first] = await listRecordings(at.store, at.stored.id);
    expect(first).toMatchObject({ zoned: true, from: START - 120 * MINUTE });
    await setClock(first!.id, { timeZone: 'UTC', offsetSeconds: 30, secondsPerDay: 0 });
    // A multiple of seven minutes on, so that both tell the shared moments alike.
    const bytes = local(log(301, 600, 25));
    const description = { device: 'monitor', ...(timeZone ? { timeZone } : {}) };
    const { id } = await beginIntake(at.store, at.stored, {
      fileName: 'b.csv',
      size: bytes.length,
      modified: 0,
      description,
    });
    await takePart(at.store, id, 0, bytes);
    await until(id, 'asking');
    await answerIntake(at.store, id, 'merge');
    await until(id, 'done');
    const [merged] = await listRecordings(at.store, at.stored.id);
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
    await answerIntake(at.store, id, 'replace');
    await until(id, 'done');
    expect(await listRecordings(at.store, at.stored.id)).toMatchObject([
      { fileName: 'august.csv', sampleCount: 100 },
    ]);
  });

  test('a cancelled log leaves nothing, whenever it is cancelled', async () => {
    const bytes = log(0, 60_000, 25);
    const half = await begin(bytes.length);
    await takePart(at.store, half.id, 0, bytes.subarray(0, 5000));
    expect(await removeIntake(at.store, half.id)).toBe(true);
    expect(await takePart(at.store, half.id, 5000, bytes.subarray(5000))).toBe('gone');
    const { id } = await send(bytes, 'reading');
    expect(await removeIntake(at.store, id)).toBe(true);
    await new Promise((done) => setTimeout(done, 1500));
    expect(await listRecordings(at.store, at.stored.id)).toEqual([]);
    expect(await at.store.selectFrom('intake_parts').select('at').execute()).toEqual([]);
    expect(await removeIntake(at.store, id)).toBe(false);
  });

  test('a log whose worker has gone is taken up again; one that is in work is left alone', async () => {
    const bytes = log(0, 100, 25);
    const { id } = await begin(bytes.length);
    // As a worker leaves it that was killed: taken off the queue, the state set, the lock gone with its connection.
    const guards = guardsOf(testDatabaseUrl!);
    const guard = (await guards.take(id))!;
    expect(await guards.take(id)).toBeNull();
    await takePart(at.store, id, 0, bytes);
    await new Promise((done) => setTimeout(done, 1200));
    await at.store.updateTable('intakes').set({ state: 'reading' }).where('id', '=', id).execute();
    await new Promise((done) => setTimeout(done, 5500));
    expect(await findIntake(at.store, id)).toMatchObject({ state: 'reading' });
    await guard.release();
    await until(id, 'done');
    await guards.end();
    expect(await listRecordings(at.store, at.stored.id)).toHaveLength(1);
  });

  test('rows with a problem are kept with their line, and written out', async () => {
    const text = log(0, 5, 25).toString() + '2026-09-21T01:00:00Z,"oo""ps",1\n\n2026-13-45,25.1,2\n';
    await send(Buffer.from(text), 'done');
    const { id } = (await listRecordings(at.store, at.stored.id))[0]!;
    const found = (await recordingProblems(at.store, id))!;
    expect(problemsCsv(found.problems, found.problemCount + 3).split('\r\n')).toEqual([
      'line,reason,row',
      '7,"""oo""""ps"" in ""battery voltage (V)"" is not a number; the cell is taken as missing.","2026-09-21T01:00:00Z,""oo""""ps"",1"',
      '9,"No time could be read in ""2026-13-45,25.1,2""; the row is left out.","2026-13-45,25.1,2"',
      ',3 more are not listed.,',
      '',
    ]);
    expect(await recordingProblems(at.store, '00000000-0000-4000-8000-000000000000')).toBeNull();
  });

  test('a clock that was set can be set back, and travels with the bundle', async () => {
    await send(log(0, 20_000, 25), 'done');
    const { id } = (await listRecordings(at.store, at.stored.id))[0]!;
    const before = await loadSeries(at.store, id);
    const clock = { timeZone: 'UTC', offsetSeconds: 90, secondsPerDay: -4.5 };
    expect(await setClock(id, clock)).toMatchObject([{ id, clock: { offsetSeconds: 0 } }]);
    const set = await loadSeries(at.store, id);
    expect(set.time[0]).toBe(START + 90_000);
    expect(set.time.at(-1)! - before.time.at(-1)!).toBe(Math.round(90_000 - (4500 * 19_999) / 1440));
    expect(await listRecordings(at.store, at.stored.id)).toMatchObject([
      { clock, clockVersion: 2, from: set.time[0], to: set.time.at(-1) },
    ]);
    expect((await loadSeries(at.store, id, true)).time).toEqual(before.time);
    const elsewhere = await takenIn(at.store, await collected(await bundleOfJob(at.store, at.stored.id)));
    while ((await listIntakes(at.store, elsewhere)).length > 0) await pause(100);
    const [there] = await listRecordings(at.store, elsewhere);
    expect(there!.clock).toEqual({ ...clock, timeZone: system.timeZone });
    expect((await loadSeries(at.store, there!.id)).time).toEqual(set.time);
    await setClock(id, { timeZone: 'UTC', offsetSeconds: 0, secondsPerDay: 0 });
    expect((await loadSeries(at.store, id)).time).toEqual(before.time);
    expect(await setClock('nobody', clock)).toBe('gone');
    expect(await setClock(id, { ...clock, offsetSeconds: -100 * 365 * 86_400 })).toBe('no-time');
    expect((await loadSeries(at.store, id)).time).toEqual(before.time);
  });

  test('a confirmed reading is kept as a recipe; intakes that are over are cleared after a week', async () => {
    const columns = { volts: { channel: 'battery_voltage' } };
    await beginIntake(at.store, at.stored, {
      fileName: 'july.csv',
      size: 100,
      modified: 0,
      description: { device: 'monitor', columns, dateOrder: 'dmy' },
      recipeKey: 'a key',
    });
    expect(await findRecipe(at.store, 'a key')).toMatchObject({
      recipe: { columns, dateOrder: 'dmy' },
      fileName: 'july.csv',
    });
    expect(await findRecipe(at.store, 'another')).toBeNull();
    await at.store
      .updateTable('intakes')
      .set({ changed_at: sql<Date>`now() - interval '8 days'` })
      .execute();
    await clearIntakes(at.store);
    expect(await listIntakes(at.store, at.stored.id)).toEqual([]);
  });

  test('a device that nobody has described is made with its first log, or not at all', async () => {
    const bare = { name: 'Bare', timeZone: 'UTC', bank: {}, sources: [], loads: [] };
    const systemId = await insertSystem(at.store, bare);
    const opened = (await findJob(at.store, await insertJob(at.store, systemId, job)))!;
    const ask = (device: string, newDevice?: 'source' | 'monitor' | 'bms') =>
      beginIntake(at.store, opened, {
        fileName: `${device}.csv`,
        size: 10,
        modified: 0,
        description: { device },
        newDevice,
      });
    await expect(ask('charger')).rejects.toThrow(/no device “charger”/);
    await ask('charger', 'source');
    const { system: made, systemVersion } = (await findJob(at.store, opened.id))!;
    expect([systemVersion, made.sources]).toEqual([
      2,
      [{ id: 'charger', name: 'Charger', profile: {}, counted: null }],
    ]);
    // Against what somebody has changed meanwhile nothing is made.
    await expect(ask('monitor', 'monitor')).rejects.toThrow(/just changed this system/);
    expect((await findJob(at.store, opened.id))!.system.monitor).toBeUndefined();
    expect(await listIntakes(at.store, opened.id)).toHaveLength(1);
  });
});
