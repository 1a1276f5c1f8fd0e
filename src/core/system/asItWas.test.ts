import type { Change } from '../bundle/schema';
import { asItWas, sinceSentence } from './asItWas';
import type { System } from './schema';
import { keptDemo } from '../../../tests/support/demos';
import { seriesOf } from '../../../tests/support/testSites';
import { diagnose } from '../diagnosis/diagnose';

const { system } = keptDemo('vaccine-cold-room');
const noon = Date.parse('2026-10-10T12:00:00Z');
const change = (some: Partial<Change>): Change => ({
  on: '2026-10-12',
  path: 'monitor.capacityAh',
  label: 'Monitor: Capacity set',
  unit: 'Ah',
  before: 100,
  after: 200,
  why: 'The label says so.',
  ...some,
});
const now: System = { ...system, monitor: { ...system.monitor!, capacityAh: 200, chargedV: 28 } };

test('what was changed later is taken back, one change after the other', () => {
  const first = change({ on: '2026-10-11', before: 80, after: 100 });
  const { system: was, since } = asItWas(now, [first, change({})], noon);
  expect(was.monitor!.capacityAh).toBe(80);
  expect(was.monitor!.chargedV).toBe(28);
  expect(since.map((one) => one.on)).toEqual(['2026-10-12', '2026-10-11']);
  expect(now.monitor!.capacityAh).toBe(200);
});

test('what was changed on the day or before it stays', () => {
  for (const on of ['2026-10-10', '2026-09-01'])
    expect(asItWas(now, [change({ on })], noon).system).toBe(now);
});

test('the day is that of the site', () => {
  const late = Date.parse('2026-10-11T15:00:00Z');
  const east = { ...now, timeZone: 'Pacific/Auckland' };
  expect(asItWas(east, [change({})], late).since).toEqual([]);
  expect(asItWas({ ...now, timeZone: 'UTC' }, [change({})], late).since).toHaveLength(1);
});

test('a setting that the description has overtaken is left as it is described', () => {
  expect(asItWas(now, [change({ after: 150 })], noon).system).toBe(now);
});

test('a setting that was none before is none again', () => {
  const { system: was } = asItWas(now, [change({ before: null })], noon);
  expect(was.monitor!.capacityAh).toBeUndefined();
});

test('the sentence names each setting', () => {
  expect(sinceSentence([])).toBeNull();
  expect(sinceSentence([change({})])).toBe(
    'Settings were changed after most of these logs: Monitor: Capacity set from 100 Ah to 200 Ah on 12 Oct 2026. The logs are judged by the settings before.',
  );
});

test('logs are judged by what was set while they ran, the review by what is set today', () => {
  const demo = keptDemo('tide-gauge');
  const { job, system } = demo;
  const series = seriesOf(demo);
  const capacityAh = system.monitor!.capacityAh!;
  const mended = { ...system, monitor: { ...system.monitor!, capacityAh: 2 * capacityAh } };
  const record = [change({ on: '2099-01-01', before: capacityAh, after: 2 * capacityAh })];
  const before = diagnose({ job, system, series });
  const after = diagnose({ job, system: mended, series, changes: record });
  expect(after.counting!.settings).toEqual(before.counting!.settings);
  expect(after.trust.map((one) => one.code)).toContain('settings-changed');
  expect(before.trust.map((one) => one.code)).not.toContain('settings-changed');
  expect(diagnose({ job, system: mended, series }).counting!.settings).not.toEqual(before.counting!.settings);
});
