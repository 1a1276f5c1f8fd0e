/** The caliper, the search and the discharges of a system, over what the database holds. Needs PostgreSQL. */

import { HOUR } from '@/core/quantity/span';
import { unpackMinutes } from '@/core/whatif/minutes';
import { findAnalyses, saveAnalysis } from '@/store/analyses';
import { findJob, findSystem, setJobRemoved } from '@/store/jobs';
import { listRecordings } from '@/store/recordings';
import { MINUTE, START, takingIn } from '../../tests/support/takingIn';
import { testDatabaseUrl } from '../../tests/support/testStore';
import { analyseJob } from './analyseJob';
import { dischargesOf, type JobDischarge } from './dischargesOf';
import { newJobSchema } from './doors';
import { newJob } from './newJob';
import { minutesOfJob } from './minutesOfJob';
import { findInLog, measureSpan } from './spanTools';

const described = testDatabaseUrl ? describe : describe.skip;
/** 10 A out for two hours, then nothing. */
const HOURS = 4;
const csv = Buffer.from(
  'time,battery voltage (V),battery current (A)\n' +
    Array.from({ length: HOURS * 60 + 1 }, (_, i) => {
      const when = new Date(START + i * MINUTE).toISOString().slice(0, 19);
      return `${when}Z,${i <= 120 ? '24.00,-10' : '25.00,0'}\n`;
    }).join(''),
);

described('tools on logs', () => {
  const at = takingIn();

  test('the caliper counts the samples, and the ends lie between two of them', async () => {
    await at.send(csv, 'done');
    const measured = await measureSpan(at.store, at.stored.id, { from: START, to: START + 1.5 * HOUR });
    // 10 A for 1.5 h at 24 V.
    expect(measured.battery!.ampHoursOut).toBeCloseTo(15, 3);
    expect(measured.battery!.wattHoursOut).toBeCloseTo(360, 1);
    expect(measured.battery!.ampHoursIn).toBe(0);
    expect(measured.volts).toEqual({ from: 24, to: 24 });
    const half = await measureSpan(at.store, at.stored.id, {
      from: START + HOUR,
      to: START + HOUR + MINUTE / 2,
    });
    expect(half.battery!.ampHoursOut).toBeCloseTo(10 / 120, 4);
  });

  test('where no log is, that is said', async () => {
    const span = { from: START + 100 * HOUR, to: START + 101 * HOUR };
    await expect(measureSpan(at.store, at.stored.id, span)).rejects.toThrow('There is no such job');
    await at.send(csv, 'done');
    await expect(measureSpan(at.store, at.stored.id, span)).rejects.toThrow('no samples between');
    await expect(measureSpan(at.store, at.stored.systemId, span)).rejects.toThrow();
  });

  test('the logs on a grid, for the replay of charging; of a job without logs there is none', async () => {
    await expect(minutesOfJob(at.store, at.stored.id)).rejects.toThrow('There is no such job with logs');
    await at.send(csv, 'done');
    const { body } = await minutesOfJob(at.store, at.stored.id);
    const bytes = Buffer.concat([...(body as Iterable<Uint8Array>)]);
    const minutes = unpackMinutes(new Uint8Array(bytes).buffer);
    expect(minutes.stepMs).toBe(MINUTE);
    expect(minutes.amps[30]).toBe(-10);
    expect(minutes.volts[200]).toBe(25);
    expect(minutes.celsius).toBeNull();
  });

  test('the next and the last time of something, and a span between two levels', async () => {
    await at.send(csv, 'done');
    const [recording] = await listRecordings(at.store, at.stored.id);
    const find = (some: Partial<Parameters<typeof findInLog>[2]>, job = at.stored.id) =>
      findInLog(at.store, job, {
        recording: recording!.id,
        channel: 'battery_voltage',
        rule: 'rises-above',
        value: 24.5,
        minutes: 0,
        from: START,
        way: 'next',
        ...some,
      });
    const { found } = await find({});
    expect(found!.from).toBeGreaterThanOrEqual(START + 120 * MINUTE);
    expect(found!.from).toBeLessThanOrEqual(START + 121 * MINUTE);
    expect(await find({ way: 'previous', from: START + HOURS * HOUR })).toEqual({ found });
    expect(await find({ value: 30 })).toEqual({ found: null });
    await expect(find({ channel: 'soc' })).rejects.toThrow('no such channel');
    // Only the job’s own recordings are searched.
    const other = await newJob(
      at.store,
      newJobSchema.parse({ systemId: at.stored.systemId, title: 'Another visit', complaints: [] }),
      '2026-11-01T08:00:00Z',
    );
    await expect(find({}, other.id)).rejects.toThrow();
  });

  test('discharges of all jobs on a system: those that emptied it first, then the latest', async () => {
    await at.send(csv, 'done');
    await analyseJob(at.store, (await findJob(at.store, at.stored.id))!);
    const analysis = (await findAnalyses(at.store, [at.stored.id])).get(at.stored.id)!;
    const one = (day: number, holds: JobDischarge['one']['holds']): JobDischarge['one'] => ({
      from: `2026-09-${day}T18:00:00Z`,
      to: `2026-09-${day}T23:00:00Z`,
      ampHours: 50,
      wattHours: 1200,
      amps: 10,
      celsius: 20,
      endVolts: 22,
      left: 5,
      percentOut: 45,
      holds,
      course: null,
    });
    const fromFull = [one(21, null), one(22, { percent: 70, band: 5 }), one(23, null)];
    const discharge = { fromFull, resistance: null, paths: [] };
    await saveAnalysis(at.store, at.stored.id, { ...analysis, result: { ...analysis.result, discharge } });
    const listed = await dischargesOf(at.store, at.stored.systemId);
    expect(listed.map((item) => item.one.from.slice(8, 10))).toEqual(['22', '23', '21']);
    expect(listed[0]).toMatchObject({ jobId: at.stored.id, title: at.stored.job.title });
    await setJobRemoved(at.store, at.stored.id, true);
    expect(await dischargesOf(at.store, at.stored.systemId)).toEqual([]);
  });

  test('a new job on a new system keeps what is known of the bank; a system that is gone is said so', async () => {
    const { id } = await newJob(
      at.store,
      newJobSchema.parse({
        systemName: 'Bell tower',
        timeZone: 'Europe/Rome',
        title: 'Bells stop at night',
        complaints: ['premature-cutoff'],
        bank: { chemistry: 'agm', capacityAh: 120 },
      }),
      '2026-11-01T08:00:00Z',
    );
    const stored = (await findJob(at.store, id))!;
    expect(stored.job).toMatchObject({ title: 'Bells stop at night', openedAt: '2026-11-01T08:00:00Z' });
    expect(stored.system).toMatchObject({
      name: 'Bell tower',
      bank: { chemistry: 'agm', capacityAh: 120 },
    });
    expect(await findSystem(at.store, stored.systemId)).not.toBeNull();
    const like = await newJob(
      at.store,
      newJobSchema.parse({
        systemName: 'Second bell tower',
        likeSystemId: stored.systemId,
        title: 'As the first',
        complaints: [],
      }),
      '2026-11-02T08:00:00Z',
    );
    expect((await findJob(at.store, like.id))!.system).toMatchObject({
      name: 'Second bell tower',
      bank: { chemistry: 'agm', capacityAh: 120 },
    });
    const unlike = newJobSchema.parse({
      systemName: 'Third',
      likeSystemId: at.stored.id,
      title: 'x',
      complaints: [],
    });
    await expect(newJob(at.store, unlike, '2026-11-02T08:00:00Z')).rejects.toThrow('that it is like');
    const nowhere = newJobSchema.parse({ systemId: at.stored.id, title: 'x', complaints: [] });
    await expect(newJob(at.store, nowhere, '2026-11-01T08:00:00Z')).rejects.toThrow('not there any more');
    const nameless = newJobSchema.parse({ title: 'x', complaints: [] });
    await expect(newJob(at.store, nameless, '2026-11-01T08:00:00Z')).rejects.toThrow('a name');
  });
});
