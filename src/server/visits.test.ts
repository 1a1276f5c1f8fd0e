/** Visits and the plan on the server: what is fed into a description, and what is due. Against PostgreSQL when TEST_DATABASE_URL is set. */

import { randomUUID } from 'node:crypto';
import type { Visit } from '@/core/onsite/visit';
import { ON_SITE_DEMOS } from '@/core/simulate/demo';
import type { Store } from '@/store/database';
import { findJob, findSystem, insertJob, insertSystem, saveSystem, setJobRemoved } from '@/store/jobs';
import { listRecords } from '@/store/records';
import { takeTestStore, testDatabaseUrl } from '../../tests/support/testStore';
import { analyseJob } from './analyseJob';
import { keepRecord } from './keepRecord';
import { planOfVisits } from './planOfVisits';
import { Refusal } from './refusal';
import { visitSheet } from './visitSheet';

const [{ system, job, records }] = ON_SITE_DEMOS as [(typeof ON_SITE_DEMOS)[number]];
const seen = records.visit![0]!;

(testDatabaseUrl ? describe : describe.skip)('visits on the server', () => {
  let store: Store;
  let release: () => Promise<void>;
  let systemId: string;
  let jobId: string;

  beforeAll(async () => {
    ({ store, release } = await takeTestStore());
  });
  beforeEach(async () => {
    await store.deleteFrom('systems').execute();
    systemId = await insertSystem(store, system);
    jobId = await insertJob(store, systemId, job);
  });
  afterAll(() => release());

  const keep = (visit: Partial<Visit>) => {
    const record: Visit = { ...seen, id: randomUUID(), job: jobId, ...visit };
    return keepRecord(store, systemId, record.id, { kind: 'visit', record }).then(() => record);
  };
  const solar = async () =>
    (await findSystem(store, systemId))!.system.sources.find((one) => one.id === 'solar')!.counted;

  test('what was proved goes into the description; kept again as it is, it does not overrule what was said since', async () => {
    const record = await keep({});
    expect(await solar()).toBe(false);
    const now = (await findSystem(store, systemId))!;
    const moved = { ...now.system, sources: now.system.sources.map((one) => ({ ...one, counted: true })) };
    await saveSystem(store, systemId, now.version, moved);
    await keep({ ...record, notes: 'Moved.' });
    expect(await solar()).toBe(true);
    // Proved anew, it counts again.
    await keep({ ...record, proof: { ...record.proof, offA: 0.01 } });
    expect(await solar()).toBe(false);
  });

  test('a visit that comes late does not overrule a later one', async () => {
    const right = structuredClone(seen.proof!);
    right.devices!.solar!.showsA = 16.8;
    await keep({ on: '2026-11-04', proof: right });
    expect(await solar()).toBe(true);
    await keep({ on: '2026-10-21' });
    expect(await solar()).toBe(true);
  });

  test('it is weighed in its own job alone', async () => {
    const other = await insertJob(store, systemId, { ...job, title: 'Another' });
    await keep({});
    const standing = async (id: string) =>
      (await analyseJob(store, (await findJob(store, id))!)).findings.find(
        (one) => one.cause === 'source-not-counted',
      )!.evidence;
    expect((await standing(jobId)).some((one) => one.text.startsWith('On site:'))).toBe(true);
    expect((await standing(other)).some((one) => one.text.startsWith('On site:'))).toBe(false);
    const { id } = (await listRecords(store, systemId)).visit[0]!;
    expect((await visitSheet(store, jobId, id))!.sections.map((one) => one.title)).toContain(
      'Proof of coverage',
    );
    expect(await visitSheet(store, other, id)).toBeNull();
  });

  test('a visit of a job on another system is refused with a sentence', async () => {
    const strange = await insertJob(store, await insertSystem(store, system), job);
    await expect(keep({ job: strange })).rejects.toThrow(/job that is not on this system/);
    await expect(keep({ job: randomUUID() })).rejects.toBeInstanceOf(Refusal);
    expect((await listRecords(store, systemId)).visit).toEqual([]);
  });

  test('the plan: every system with a job, what was agreed, what was done; none of a job that was removed', async () => {
    await keep({ nextVisitOn: '2026-11-04' });
    const due = async (only?: string) => (await planOfVisits(store, only)).map((one) => [one.what, one.on]);
    expect(await due()).toContainEqual(['visit', '2026-11-04']);
    expect(await due()).toContainEqual(['full-charge', '2026-10-28']);
    const id = randomUUID();
    await keepRecord(store, systemId, id, { kind: 'done', record: { id, on: '2026-11-05', what: 'visit' } });
    expect((await due()).map(([what]) => what)).not.toContain('visit');
    expect(await due(systemId)).toEqual(await due());
    expect(await due(randomUUID())).toEqual([]);
    await setJobRemoved(store, jobId, true);
    expect(await due()).toEqual([]);
  });
});
