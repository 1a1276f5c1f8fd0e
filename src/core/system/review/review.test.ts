/** The settings review as a whole: healthy systems, the demo, what is not known, schools, scaling. The figures are common practice with no source. */

import { job, lead, lithium, load, monitor, profile } from '../../../../tests/support/ruleCases';
import { DEMO_SLUGS, demoSystem } from '../../simulate/demo';
import { type System, systemSchema } from '../schema';
import { dailyDepth, daysWithoutFull, schoolsOf } from '../schools';
import { reviewSettings } from './review';

test('a load on the battery passes no count of an inverter unseen', () => {
  const system = lithium();
  system.monitor!.method = 'source-count';
  const why = () => reviewSettings(system, job).notes.find((one) => one.rule === 'monitor-method')?.why;
  system.loads[0]!.counted = false;
  expect(why()).toMatch(/blind to whatever else is wired to the battery: Lamp/);
  system.loads[0]!.counted = true;
  expect(why()).not.toMatch(/Lamp/);
});

test('whether a tenth of a volt between halves matters depends on the load and the state', () => {
  const at = (hoursAtRest: number, base = lead) => {
    const reading = { hoursAtRest };
    const halves = { lowerV: 6.1, upperV: 6.35 };
    return reviewSettings(base(), { ...job, reading, walk: { halves } }).notes.find(
      (one) => one.rule === 'halves-apart',
    )!;
  };
  expect(at(0).why).toMatch(/while current flowed/);
  expect(at(0).fix).toMatch(/after two hours/);
  expect(at(12).why).toMatch(/about 30 % of charge/);
  expect(at(12, lithium).why).toMatch(/flat part of lithium/);
});

test('schools follow the system: depth of cycling, lithium, sources that come and go', () => {
  const base = lead();
  // 1.5 A all day, mains for twelve hours: 18 Ah of 100 a day.
  expect(dailyDepth(base)).toBeCloseTo(0.18, 9);
  expect(schoolsOf(base).efficiency).toBe('cycled');
  const light = { ...base, loads: [{ ...base.loads[0]!, usualA: 0.5 }] };
  expect(schoolsOf(light).efficiency).toBe('near-top');
  expect(schoolsOf(base).resync).toBe('fortnightly');
  expect(schoolsOf(lithium()).resync).toBe('weekly');
  expect(schoolsOf({ ...base, sources: [{ ...base.sources[0]!, kind: 'solar' }] }).resync).toBe('weekly');
  // Nobody is blamed within a fortnight where the sun decides, unless the school was chosen.
  expect(daysWithoutFull({ ...base, sources: [{ ...base.sources[0]!, kind: 'solar' }] })).toBe(14);
  expect(daysWithoutFull({ ...base, schools: { resync: 'weekly' } })).toBe(7);
});

test.each([
  ['lead', lead],
  ['lithium', lithium],
])('nothing is said of the healthy %s system, and every check could be made', (_, base) => {
  const review = reviewSettings(base(), job);
  expect(review.notes).toEqual([]);
  expect(review.sheet.filter((row) => row.verdict !== 'keep')).toEqual([]);
  expect(review.hazards).toEqual([]);
  expect(review.findOut).toEqual([]);
});

describe('the demo systems review as their stories say', () => {
  const STORIES: Record<string, string[]> = {
    'tide-gauge': ['absorption-time', 'charged-voltage'],
    'seismic-vault': ['compensation', 'equalise-settings', 'airflow', 'equalise-schedule'],
    'vaccine-cold-room': [
      'lithium-compensation',
      'source-coverage',
      'percentage-cutoff',
      'float-voltage',
      'lithium-preset',
      'sources-together',
    ],
    'ferry-lamps': ['monitor-tail', 'charged-voltage', 'detection-time'],
    'fog-horn': ['cutoff-voltage', 'alarm-voltage', 'load-cable', 'reconnect-gap'],
    'parish-radio': ['charged-voltage', 'balancing-start'],
    'weather-mast': ['lithium-compensation', 'lithium-preset', 'cold-limits'],
    'harbour-office': [],
  };
  test.each(DEMO_SLUGS)('%s', (slug) => {
    const { system, job } = demoSystem(slug);
    const { notes, sheet, hazards } = reviewSettings(system, job);
    expect([...new Set(notes.map((note) => note.rule))].sort()).toEqual([...STORIES[slug]!].sort());
    if (slug === 'harbour-office') {
      expect(sheet.every((row) => row.verdict !== 'change')).toBe(true);
      expect(hazards).toEqual([]);
    } else expect(sheet.some((row) => row.verdict === 'change')).toBe(true);
  });
});

describe('what is not known', () => {
  const empty: System = { name: 'Nothing known', timeZone: 'UTC', bank: {}, sources: [], loads: [] };
  test('a system of which nothing is known reviews without an error and says what to find out first', () => {
    const bare: System = {
      ...empty,
      sources: [{ id: 'a', name: 'A', profile: {}, counted: null }],
      loads: [{ id: 'b', name: 'B', counted: null }],
      monitor: {},
      bms: {},
      site: {},
    };
    for (const system of [empty, bare]) {
      const review = reviewSettings(system);
      expect(review.notes).toEqual([]);
      expect(review.sheet.every((row) => row.verdict === 'not-known')).toBe(true);
      expect(review.waiting).toBeGreaterThan(0);
      expect(review.findOut[0]).toMatchObject({
        path: 'bank.chemistry',
        ofName: 'Battery',
        label: 'Chemistry',
        where: 'On the nameplate.',
      });
    }
  });

  test('leaving out any one fact never raises an error and never makes a new complaint of it', () => {
    for (const base of [lead, lithium]) {
      const full = base();
      const paths: string[] = [];
      const walk = (thing: unknown, path: string[]) => {
        if (typeof thing !== 'object' || thing === null) return;
        for (const [key, value] of Object.entries(thing)) {
          paths.push([...path, key].join('.'));
          walk(value, [...path, key]);
        }
      };
      walk(full, []);
      for (const path of paths) {
        const system = base();
        const keys = path.split('.');
        const last = keys.pop()!;
        const parent = keys.reduce<Record<string, unknown>>(
          (at, key) => at[key] as Record<string, unknown>,
          system as unknown as Record<string, unknown>,
        );
        delete parent[last];
        const parsed = systemSchema.safeParse(system);
        if (!parsed.success) continue;
        const faults = reviewSettings(parsed.data, job).notes.filter((note) => note.weight === 'fault');
        expect([path, faults.map((note) => note.rule)]).toEqual([path, []]);
      }
    }
  });
});

test('schools change what is advised', () => {
  const system = lead();
  monitor(system).chargedV = 14.9;
  const advised = (schools: System['schools']) =>
    reviewSettings({ ...system, schools }).sheet.find((row) => row.path === 'monitor.chargedV')!;
  expect(advised({ sync: 'steady' })).toMatchObject({
    verdict: 'change',
    advised: 13.5,
    school: 'steady source',
  });
  expect(advised({ sync: 'varying' })).toMatchObject({ advised: 14.2, school: 'varying source' });
  const cold = lithium();
  profile(cold).floatV = 28.2;
  const float = (school: 'equal' | 'gap' | 'none') =>
    reviewSettings({ ...cold, schools: { lithiumFloat: school } }).sheet.find(
      (row) => row.setting === 'profile.floatV',
    )!;
  expect(float('gap')).toMatchObject({ verdict: 'change', advised: 26.8 });
  expect(float('none')).toMatchObject({ verdict: 'change', advised: 'off' });
  expect(float('equal').verdict).toBe('keep');
});

test('volts scale with the cells in series', () => {
  const system = lead();
  const twice = structuredClone(system);
  twice.bank.cellsInSeries = 12;
  for (const range of [twice.bank.chargeVolts!, twice.bank.floatVolts!]) {
    range.min *= 2;
    range.max *= 2;
  }
  for (const key of ['absorptionV', 'floatV', 'rebulkV'] as const) profile(twice)[key]! *= 2;
  monitor(twice).chargedV! *= 2;
  for (const key of ['alarmV', 'cutoffV', 'reconnectV'] as const) load(twice)[key]! *= 2;
  expect(reviewSettings(twice, job).notes).toEqual([]);
  monitor(twice).chargedV = 30;
  const row = reviewSettings(twice, job).sheet.find((one) => one.path === 'monitor.chargedV')!;
  expect(row.advised).toBeCloseTo(27, 9);
});
