/** The logs are read again only when what they show may have changed; a typed note is weighed from what was seen. Needs PostgreSQL. */

import { findJob, saveJob, saveSystem, type StoredJob } from '@/store/jobs';
import { listRecordings } from '@/store/recordings';
import { job, log, system, takingIn } from '../../tests/support/takingIn';
import { testDatabaseUrl } from '../../tests/support/testStore';
import { analyseJob } from './analyseJob';
import { listJobs } from './listJobs';

const described = testDatabaseUrl ? describe : describe.skip;

described('weighing a job', () => {
  const at = takingIn();
  const seen = () =>
    at.store.selectFrom('observations').select(['made_from', 'created_at']).executeTakeFirstOrThrow();
  const now = async (): Promise<StoredJob> => (await findJob(at.store, at.stored.id))!;

  test('a note is weighed from what was seen; a changed battery is looked at anew', async () => {
    await at.send(log(0, 600, 25.1), 'done');
    const first = await analyseJob(at.store, await now());
    expect(first.charging.days.length).toBeGreaterThan(0);
    const before = await seen();

    // The samples are gone: whoever reads them again finds nothing.
    await at.store.deleteFrom('recording_chunks').execute();
    const { jobVersion } = await now();
    await saveJob(at.store, at.stored.id, jobVersion, {
      ...job,
      complaints: ['premature-cutoff'],
      notes: 'The inverter beeps at night.',
    });
    expect((await listJobs(at.store)).rows[0]!.stale).toBe(true);
    const second = await analyseJob(at.store, await now());
    expect(second.charging).toEqual(first.charging);
    expect(second.charges).toEqual(first.charges);
    expect(await seen()).toEqual(before);
    expect((await listJobs(at.store)).rows[0]!.stale).toBe(false);

    const { systemVersion } = await now();
    const bank = { ...system.bank, capacityAh: 2 * system.bank.capacityAh };
    await saveSystem(at.store, at.stored.systemId, systemVersion, { ...system, bank });
    await analyseJob(at.store, await now());
    expect((await seen()).made_from).not.toBe(before.made_from);
  });

  test('a clock that is set is looked at anew', async () => {
    await at.send(log(0, 600, 25.1), 'done');
    await analyseJob(at.store, await now());
    const before = await seen();
    const [recording] = await listRecordings(at.store, at.stored.id);
    const clock = { timeZone: system.timeZone, offsetSeconds: 3600, secondsPerDay: 0 };
    await at.setClock(recording!.id, clock);
    await analyseJob(at.store, await now());
    expect((await seen()).made_from).not.toBe(before.made_from);
  });
});
