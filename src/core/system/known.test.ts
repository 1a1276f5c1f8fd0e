import { demoSystem } from '../simulate/demo';
import { knownSystem, missingBasics, presetVolts } from './known';
import { plainCopy, valueAt, withValue } from './paths';
import { QUESTION_IDS, QUESTIONS, schoolOf, schoolsOf } from './schools';
import { systemSchema } from './schema';

const { system } = demoSystem('harbour-office');

test('a log can be judged once chemistry, cells and capacity are known', () => {
  expect(missingBasics(system)).toEqual([]);
  expect(missingBasics({ ...system, bank: {} })).toEqual([
    'the chemistry of the battery',
    'how many cells are in series',
    'the capacity of the bank',
  ]);
  for (const basic of ['chemistry', 'cellsInSeries', 'capacityAh'])
    expect(knownSystem(withValue(system, `bank.${basic}`, undefined)!)).toBeNull();
});

test('an unknown charge voltage is the chemistry’s, a known one is the maker’s (common practice, no source)', () => {
  const without = withValue(system, 'bank.chargeVolts', undefined)!;
  expect(knownSystem(without)!.bank.chargeVolts).toEqual({ min: 27.8, max: 28.6 });
  expect(knownSystem(system)!.bank.chargeVolts).toEqual(system.bank.chargeVolts);
  expect(presetVolts('lfp', 16)).toEqual({
    charge: { min: 56.8, max: 58.4 },
    float: { min: 52.8, max: 54.4 },
  });
});

test('places by path', () => {
  expect(valueAt(system, 'sources.0.profile.floatV')).toBe(27.4);
  expect(valueAt(system, 'sources.4.profile.floatV')).toBeUndefined();
  const changed = withValue(system, 'bms.cellHighV', 3.6)!;
  expect(changed.bms).toEqual({ cellHighV: 3.6 });
  expect(system).not.toHaveProperty('bms');
  expect(plainCopy(system)).toEqual(system);
});

describe('schools', () => {
  test('each question has at least two, each with its reason', () => {
    for (const id of QUESTION_IDS) {
      expect(QUESTIONS[id].options.length).toBeGreaterThanOrEqual(2);
      for (const option of QUESTIONS[id].options) expect(option.why).toMatch(/\.$/);
    }
  });
  test('what fits follows the sources; what was chosen stands', () => {
    expect(schoolsOf(system).sync).toBe('steady');
    expect(schoolsOf(demoSystem('tide-gauge').system).sync).toBe('varying');
    expect(schoolsOf({ ...system, schools: { sync: 'varying' } }).sync).toBe('varying');
    expect(schoolOf(schoolsOf(system), 'sync').name).toBe('steady source');
    expect(schoolsOf({ ...system, loads: [] }).lithiumFloat).toBe('none');
  });
  test('a school that there is none of is refused', () => {
    expect(systemSchema.safeParse({ ...system, schools: { sync: 'hopeful' } }).success).toBe(false);
    expect(systemSchema.safeParse({ ...system, schools: { sync: 'varying' } }).success).toBe(true);
  });
});
