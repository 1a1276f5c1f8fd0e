/** The plan of visits: each kind with when it is due and when it is not. Intervals are common practice, no source. */

import { noRecords, type SystemRecords } from '../records/records';
import { demoSystem, ON_SITE_DEMOS } from '../simulate/demo';
import type { System } from '../system/schema';
import type { DueKind } from '../records/done';
import { daysLater, dueOf } from './due';

const vault = demoSystem('seismic-vault').system;
const pumps = ON_SITE_DEMOS[0]!.system;
const id = '00000000-0000-4000-8000-000000000001';
const at = (
  system: System,
  what: DueKind,
  {
    records = {},
    openedOn = '2026-10-01',
    changedOn = null,
    loggedTo = null,
  }: {
    records?: Partial<SystemRecords>;
    openedOn?: string | null;
    changedOn?: string | null;
    loggedTo?: string | null;
  } = {},
) =>
  dueOf({ system, records: { ...noRecords(), ...records }, openedOn, changedOn, loggedTo }).find(
    (one) => one.what === what,
  );
const done = (what: DueKind, on: string) => ({ done: [{ id, on, what }] });

test('a full charge by the school: a week for lithium, a quarter where that was chosen, none without a counter', () => {
  expect(at(pumps, 'full-charge')!.on).toBe('2026-10-08');
  expect(at({ ...pumps, schools: { resync: 'quarterly' } }, 'full-charge')!.on).toBe(
    daysLater('2026-10-01', 91),
  );
  expect(at(pumps, 'full-charge', { records: done('full-charge', '2026-10-20') })!.on).toBe('2026-10-27');
  expect(at({ ...pumps, monitor: { method: 'voltage' } }, 'full-charge')).toBeUndefined();
  expect(at(pumps, 'full-charge', { openedOn: null })).toBeUndefined();
});

test('what was agreed on site goes first, until it is done', () => {
  const visit = { id, job: id, on: '2026-10-03', nextFullOn: '2026-10-06', nextVisitOn: '2026-11-02' };
  expect(at(pumps, 'full-charge', { records: { visit: [visit] } })).toMatchObject({ on: '2026-10-06' });
  expect(at(pumps, 'visit', { records: { visit: [visit] } })!.on).toBe('2026-11-02');
  expect(at(pumps, 'visit', { records: { visit: [visit], ...done('visit', '2026-11-03') } })).toBeUndefined();
  expect(at(pumps, 'visit')).toBeUndefined();
});

test('equalisation where the maker asks for it, from the last one on; never of lithium', () => {
  const last = {
    ...vault,
    bank: { ...vault.bank, equalise: { ...vault.bank.equalise!, everyDays: 30, lastOn: '2026-09-10' } },
  };
  expect(at(last, 'equalisation')!.on).toBe('2026-10-10');
  expect(at(last, 'equalisation', { records: done('equalisation', '2026-10-12') })!.on).toBe('2026-11-11');
  expect(at(pumps, 'equalisation')).toBeUndefined();
});

test('a hydrometer round every ninety days, of flooded cells only', () => {
  const round = { id, on: '2026-09-01', readings: [{ cell: '1A', gravity: 1.26 }] };
  expect(at(vault, 'hydrometer-round', { records: { 'hydrometer-round': [round] } })!.on).toBe('2026-11-30');
  expect(at(vault, 'hydrometer-round')!.why).toBe('None is kept yet.');
  expect(at(pumps, 'hydrometer-round')).toBeUndefined();
});

test('a capacity test: of lead the first within two years of service, then by what was found', () => {
  const { installedOn } = vault.bank;
  expect(at(vault, 'capacity-test')!.on).toBe(daysLater(installedOn!, 730));
  expect(at(vault, 'capacity-test', { records: done('capacity-test', '2026-05-01') })!.on).toBe(
    daysLater('2026-05-01', 1825),
  );
  const unknown = structuredClone(vault);
  delete unknown.bank.installedOn;
  expect(at(unknown, 'capacity-test')).toBeUndefined();
  expect(at(pumps, 'capacity-test')).toBeUndefined();
});

test('a log after a change, unless one was taken in that reaches a week beyond it', () => {
  expect(at(pumps, 'verification-log')).toBeUndefined();
  expect(at(pumps, 'verification-log', { changedOn: '2026-10-05' })!.on).toBe('2026-10-19');
  expect(at(pumps, 'verification-log', { changedOn: '2026-10-05', loggedTo: '2026-10-07' })!.on).toBe(
    '2026-10-19',
  );
  expect(at(pumps, 'verification-log', { changedOn: '2026-10-05', loggedTo: '2026-10-13' })).toBeUndefined();
});

test('the earliest first', () => {
  const days = dueOf({
    system: vault,
    records: noRecords(),
    openedOn: '2026-10-01',
    changedOn: '2026-09-01',
    loggedTo: null,
  }).map((one) => one.on);
  expect(days).toEqual([...days].sort());
  expect(days.length).toBeGreaterThan(2);
});
