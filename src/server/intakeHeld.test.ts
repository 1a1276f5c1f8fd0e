/** What is held whatever comes in, or at the same time: logs that never overlap, one way in a file, removed things, odd logs. */

import { gzipSync } from 'node:zlib';
import { sql } from 'kysely';
import { testDatabaseUrl } from '../../tests/support/testStore';
import { answerIntake, findIntake, takePart } from '@/store/intakes';
import { clearRemoved, setJobRemoved } from '@/store/jobs';
import {
  findRecording,
  insertRecording,
  listRecordings,
  setRecordingClocks,
  setRecordingRemoved,
  setUnweighed,
  undoReplacement,
} from '@/store/recordings';
import { loadSeries } from '@/store/samples';
import { exportRecording, exportTimeline } from './exportRecording';
import { openJob } from './openJob';
import { startWorker } from './worker';
import { log, MINUTE, pause, takingIn } from '../../tests/support/takingIn';

(testDatabaseUrl ? describe : describe.skip)('what is held', () => {
  const at = takingIn();
  const { begin, setClock, until, send } = at;

  test('logs of one device that are sent at once never lie beside each other: the second asks', async () => {
    for (let round = 0; round < 5; round++) {
      const ids = await Promise.all(
        [0, 1].map(async (nth) => {
          const bytes = log(1000 * round + 50 * nth, 100, 25 + nth);
          const { id } = await begin(bytes.length, `${round}-${nth}.csv`);
          await takePart(at.store, id, 0, bytes);
          return id;
        }),
      );
      const states: string[] = [];
      while (states.length < 2) {
        states.length = 0;
        for (const id of ids) {
          const { state } = (await findIntake(at.store, id))!;
          if (['done', 'asking', 'failed'].includes(state)) states.push(state);
        }
        await pause(50);
      }
      expect(states.sort()).toEqual(['asking', 'done']);
    }
    expect(await listRecordings(at.store, at.stored.id)).toHaveLength(5);
  });

  test('the database itself lets no two logs of a device overlap', async () => {
    await send(log(0, 100, 25), 'done');
    const [first] = await listRecordings(at.store, at.stored.id);
    const series = await loadSeries(at.store, first!.id);
    const row = await at.store.selectFrom('recordings').select('plan').executeTakeFirstOrThrow();
    const another = { ...series, time: series.time.map((ms) => ms + 50 * MINUTE) };
    const insert = (device: string) =>
      insertRecording(at.store, {
        jobId: at.stored.id,
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
    const second = (await listRecordings(at.store, at.stored.id)).find(
      (one) => one.fileName === 'later.csv',
    )!;
    const by = (seconds: number) => ({ timeZone: 'UTC', offsetSeconds: seconds, secondsPerDay: 0 });
    expect(await setClock(first!.id, by(3600))).toBe('overlap');
    expect(
      await setRecordingClocks(at.store, [
        { id: first!.id, clock: by(3600) },
        { id: second.id, clock: by(3600) },
      ]),
    ).toHaveLength(2);
    expect(id).toBeDefined();
  });

  test('what was replaced cannot be put back beside what replaced it', async () => {
    await send(log(0, 100, 25), 'done');
    const [first] = await listRecordings(at.store, at.stored.id);
    const { id } = await send(log(50, 100, 26), 'asking', 'august.csv');
    expect(await answerIntake(at.store, id, 'keep')).toBe(false);
    await answerIntake(at.store, id, 'replace');
    await until(id, 'done');
    expect(await setRecordingRemoved(at.store, first!.id, false)).toBe('taken');
    const [second] = await listRecordings(at.store, at.stored.id);
    expect(second!.replaces).toEqual([first!.id]);
    // Cleared away for good, it cannot be put back, and what replaced it stays.
    await at.store.deleteFrom('recordings').where('id', '=', first!.id).execute();
    expect((await listRecordings(at.store, at.stored.id))[0]!.replaces).toEqual([]);
    expect(await undoReplacement(at.store, second!.id)).toBe('gone');
    expect(await listRecordings(at.store, at.stored.id)).toHaveLength(1);
  });

  test('one file has one way in, whoever opens it at the same time', async () => {
    const begun = await Promise.all(Array.from({ length: 6 }, () => begin(500)));
    expect(new Set(begun.map((one) => one.id)).size).toBe(1);
    await expect(
      at.store
        .insertInto('intake_parts')
        .values({ intake_id: begun[0]!.id, at: 100, data: Buffer.from('x') })
        .execute(),
    ).rejects.toThrow(/intake_parts_contiguous/);
    await expect(
      at.store
        .updateTable('intakes')
        .set({ state: 'lost' as never })
        .execute(),
    ).rejects.toThrow(/intakes_state/);
  });

  test('of a removed job nothing is read, sent or set; put back, its logs go on', async () => {
    await send(log(0, 100, 25), 'done');
    const [recording] = await listRecordings(at.store, at.stored.id);
    const bytes = log(200, 100, 25);
    const half = await begin(bytes.length, 'half.csv');
    await takePart(at.store, half.id, 0, bytes.subarray(0, 100));
    await at.worker.stop();
    const whole = log(400, 100, 25);
    const waiting = await begin(whole.length, 'waiting.csv');
    await takePart(at.store, waiting.id, 0, whole);
    await setJobRemoved(at.store, at.stored.id, true);
    at.worker = await startWorker(testDatabaseUrl!);
    await pause(2500);
    expect(
      await at.store.selectFrom('intakes').select('state').where('id', '=', waiting.id).execute(),
    ).toEqual([{ state: 'waiting' }]);
    expect(await findIntake(at.store, waiting.id)).toBeNull();
    expect(await takePart(at.store, half.id, 100, bytes.subarray(100))).toBe('gone');
    expect(await setClock(recording!.id, recording!.clock)).toBe('gone');
    expect(await findRecording(at.store, recording!.id)).toBeUndefined();
    await expect(exportRecording(at.store, recording!.id, 'csv', null)).rejects.toThrow(/no such recording/);
    await expect(exportTimeline(at.store, at.stored.id, 'csv', null)).rejects.toThrow(/no such job/);
    expect(await setRecordingRemoved(at.store, recording!.id, true)).toBe('gone');
    await setJobRemoved(at.store, at.stored.id, false);
    await until(waiting.id, 'done');
    expect(await takePart(at.store, half.id, 100, bytes.subarray(100))).toEqual({ received: bytes.length });
    await until(half.id, 'done');
    expect(await listRecordings(at.store, at.stored.id)).toHaveLength(3);
  });

  test('a log that runs astray asks, and is read as answered', async () => {
    const rows = log(0, 300, 25).toString().split('\n');
    const astray = Buffer.from(
      rows.map((row, i) => (i > 200 ? row.replace('2026', '2001') : row)).join('\n'),
    );
    const { id, question } = await send(astray, 'asking', 'astray.csv');
    expect(question).toMatchObject({ kind: 'stray-rows', rows: 100, of: 300 });
    expect(await answerIntake(at.store, id, 'merge')).toBe(false);
    expect(await answerIntake(at.store, id, 'leave-out')).toBe(true);
    await until(id, 'done');
    expect(await listRecordings(at.store, at.stored.id)).toMatchObject([
      { sampleCount: 200, problemCount: 100 },
    ]);
  });

  test('a cut gzip asks, and what was whole is kept', async () => {
    const packed = gzipSync(log(0, 20_000, 25));
    const { id, question } = await send(packed.subarray(0, packed.length >> 1), 'asking', 'cut.csv.gz');
    expect(question).toMatchObject({ kind: 'damaged' });
    await answerIntake(at.store, id, 'keep-whole-rows');
    await until(id, 'done');
    const [kept] = await listRecordings(at.store, at.stored.id);
    expect(kept!.sampleCount).toBeGreaterThan(5000);
    expect(kept!.problems.at(-1)!.reason).toMatch(/damaged after row \d+: what came before was kept/);
  });

  test('a log with one row a century ahead is in at once, and its job is weighed', async () => {
    const rows = log(0, 400, 25).toString().split('\n');
    rows[200] = rows[200]!.replace('2026', '2126');
    const started = Date.now();
    await send(Buffer.from(rows.join('\n')), 'done', 'year.csv');
    expect(Date.now() - started).toBeLessThan(5000);
    const [recording] = await listRecordings(at.store, at.stored.id);
    expect(recording).toMatchObject({ sampleCount: 399, problemCount: 1, unweighed: null });
    expect(recording!.to - recording!.from).toBeLessThan(400 * MINUTE);
  });

  test('what was removed is cleared after its time, and nothing else', async () => {
    await send(log(0, 50, 25), 'done');
    await send(log(100, 50, 25), 'done', 'b.csv');
    const [first, second] = await listRecordings(at.store, at.stored.id);
    await setRecordingRemoved(at.store, first!.id, true);
    const count = async () => (await at.store.selectFrom('recordings').select('id').execute()).length;
    await clearRemoved(at.store, 7);
    expect(await count()).toBe(2);
    await at.store
      .updateTable('recordings')
      .set({ removed_at: sql<Date>`now() - interval '8 days'` })
      .where('id', '=', first!.id)
      .execute();
    await clearRemoved(at.store, 7);
    expect((await listRecordings(at.store, at.stored.id)).map((one) => one.id)).toEqual([second!.id]);
    expect(await count()).toBe(1);
  });

  test('a recording that cannot be weighed says so, is left out, and can be removed', async () => {
    await send(log(0, 50, 25), 'done');
    const [recording] = await listRecordings(at.store, at.stored.id);
    await setUnweighed(at.store, recording!.id, 'It is kept, but left out.');
    const open = (await openJob(at.store, at.stored.id))!;
    expect(open.recordings).toMatchObject([{ unweighed: 'It is kept, but left out.' }]);
    expect([open.notWeighed, open.diagnosis.charges]).toEqual([null, []]);
    // By another clock it is tried again.
    await setClock(recording!.id, { timeZone: 'UTC', offsetSeconds: 5, secondsPerDay: 0 });
    expect((await listRecordings(at.store, at.stored.id))[0]!.unweighed).toBeNull();
    expect(await setRecordingRemoved(at.store, recording!.id, true)).toBe('done');
  });
});
