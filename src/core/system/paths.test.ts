import { demoSystem } from '../simulate/demo';
import { valueAt, withValue } from './paths';
import { firstRefusal, nameOfPlace } from './placeNames';
import { jobSchema, systemSchema } from './schema';

const { system, job } = demoSystem('tide-gauge');

test.each([
  'sources.4294967294.profile.floatV',
  'sources.5000000.profile.floatV',
  `sources.${system.sources.length}.name`,
  'sources.-1.name',
  'sources.01.name',
  'sources.length',
  'sources.map',
  'constructor',
  'constructor.prototype',
  '__proto__.polluted',
  'bank.toString',
  'bank.chemistry.length',
  'name.0',
  '',
])('there is no place %s, and none is made', (path) => {
  expect(valueAt(system, path)).toBeUndefined();
  expect(withValue(system, path, 1)).toBeNull();
  expect(({} as Record<string, unknown>).polluted).toBeUndefined();
});

test('a group that is missing is made, what is there is changed, undefined leaves it out', () => {
  const made = withValue(withValue(system, 'site.coldestC', -5)!, 'sources.0.profile.floatV', 13.6)!;
  expect([made.site, made.sources[0]!.profile.floatV]).toEqual([{ ...system.site, coldestC: -5 }, 13.6]);
  expect(withValue(made, 'site', undefined)!.site).toBeUndefined();
  expect(valueAt(made, 'sources.0.profile.floatV')).toBe(13.6);
});

describe('refusals name the field in the words of the interface', () => {
  const refusal = (value: unknown) => firstRefusal(systemSchema.safeParse(value).error!);

  test('of a system', () => {
    const [source, ...others] = system.sources;
    expect(refusal({ ...system, sources: [{ ...source, profile: { floatV: 'warm' } }, ...others] })).toBe(
      'Float voltage (sources, entry 1): “warm” is not a number: write it like 14.4.',
    );
    expect(refusal({ ...system, bank: { capacityAh: 1e300 } })).toBe(
      'Capacity of the whole bank: No battery system has so much: check the unit.',
    );
    expect(refusal({ ...system, name: '\u200b\u202e' })).toBe('Name of the system: Give it a name.');
    expect(refusal({ ...system, loads: 7 })).toBe('Loads: This should be a list.');
    expect(refusal(null)).toBe('This should be a group of fields.');
  });

  test('of a job, whose lists are bounded', () => {
    const wrong = (change: object) => firstRefusal(jobSchema.safeParse({ ...job, ...change }).error!);
    expect(wrong({ openedAt: 'tomorrow' })).toBe('Opened: Write the moment as 2026-10-19T08:30:00Z.');
    expect(wrong({ openedAt: '9999-01-01' })).toMatch(/^Opened: /);
    expect(wrong({ complaints: Array(1000).fill('undercharging') })).toMatch(/^Complaint: /);
    expect(wrong({ walk: { clampA: { '../x': 1 } } })).toMatch(/: An id has small letters/);
    expect(wrong({ notes: 7 })).toBe('Notes: This should be text.');
    expect(jobSchema.parse({ ...job, complaints: ['undercharging', 'undercharging'] }).complaints).toEqual([
      'undercharging',
    ]);
    expect(jobSchema.parse({ ...job, title: ' Sto\u202Eps\0 early ' }).title).toBe('Stops early');
  });

  test('places without a name of their own are named by their key', () => {
    expect(nameOfPlace(['walk', 'senseLead'])).toBe('Sense lead');
    expect(nameOfPlace(['pazienza', 'job', 'openedAt'])).toBe('Opened');
    expect(nameOfPlace([])).toBe('What was sent');
  });
});
