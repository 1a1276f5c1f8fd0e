import { demoSystem } from '@/core/simulate/demo';
import { judgeTest } from '@/core/capacity/judge';
import {
  type CapacityDraft,
  capacityTestOf,
  newCapacityDraft,
  nextReading,
  planOf,
  usableReadings,
} from './draft';
import { type FromFull, testOfDischarge } from './fromLog';

const { system } = demoSystem('fog-horn');
const START = Date.UTC(2026, 10, 27, 8);
const reading = (minutes: string, volts: string, some = {}) => ({
  minutes,
  volts,
  amps: '19',
  lowestCellVolts: '',
  cell: '',
  ...some,
});
const draft = (some: Partial<CapacityDraft> = {}): CapacityDraft => ({
  ...newCapacityDraft(system),
  startedAt: START,
  readings: [reading('0', '50,1'), reading('540', '42')],
  ...some,
});
const made = (some: Partial<CapacityDraft> = {}) => {
  const one = draft(some);
  return capacityTestOf(one, planOf(one, system));
};

test('a new test begins with the rating of the bank, and the load of its hour rate', () => {
  expect(newCapacityDraft(system)).toMatchObject({
    amps: '19',
    ratedAh: '190',
    ratedHours: '10',
    exponent: '1.25',
    startedAt: null,
    readings: [],
  });
  // Lithium without an hour rate: five hours.
  const lithium = demoSystem('weather-mast').system;
  const { bank } = lithium;
  const unrated = { ...lithium, bank: { ...bank, capacityAh: 100, capacityHours: undefined } };
  expect(newCapacityDraft(unrated)).toMatchObject({ amps: '20', ratedHours: '5' });
});

test('the plan waits for its figures', () => {
  expect(planOf(draft(), system)).toMatchObject({ endVolts: 42, ratedHours: 10 });
  expect(planOf(draft({ amps: '' }), system)).toBeNull();
  expect(planOf(draft({ amps: 'some' }), system)).toBeNull();
  expect(planOf(draft(), { ...system, bank: {} })).toBeNull();
});

test('a reading now has the minutes since the load went on, and the current of the one before', () => {
  const one = draft();
  expect(nextReading({ ...one, readings: [] }, START)).toMatchObject({ minutes: '0', amps: '19' });
  expect(nextReading(one, START + 61 * 60_000)).toMatchObject({ minutes: '61', amps: '19', volts: '' });
});

test('a decimal comma is read; a row that is still empty is left out; a wrong one is named', () => {
  const found = made({ readings: [reading('0', '50,1'), reading('540', '42'), reading('541', '')] });
  expect('test' in found && found.test.readings).toHaveLength(2);
  expect(usableReadings(draft({ readings: [reading('0', '50,1'), reading('60', 'x')] }))).toHaveLength(1);
  expect(made({ readings: [reading('0', '50'), reading('x', '42')] })).toEqual({
    problem: expect.stringMatching(/^Reading 2: /),
  });
  expect(made({ readings: [reading('0', '50')] })).toEqual({
    problem: expect.stringContaining('two readings at least'),
  });
  const late = draft({ ratedAh: '' });
  expect(capacityTestOf(late, planOf(late, system))).toEqual({
    problem: expect.stringContaining('are needed'),
  });
});

describe('from a log', () => {
  const one: FromFull = {
    from: '2026-09-21T20:00:00Z',
    to: '2026-09-22T06:00:00Z',
    ampHours: 171,
    wattHours: 8000,
    amps: 17.1,
    celsius: 25,
    endVolts: 42.3,
    left: 5,
    percentOut: 85,
    holds: { percent: 90, band: 6 },
    course: {
      stepMinutes: 60,
      volts: [50, 49, 48, 47.5, 47, 46.5, 46, 45.5, 44.5, 43.5, 42.3],
      amps: Array<number>(11).fill(17.1),
    },
  };
  const id = '00000000-0000-4000-8000-000000000001';
  test('a discharge until empty is a complete test of its day at the site', () => {
    const test = testOfDischarge(one, system, id)!;
    expect(test).toMatchObject({ on: '2026-09-21', from: 'log', wasFull: true, ratedAh: 190 });
    const judged = judgeTest(test, system);
    expect(judged.isComplete).toBe(true);
    expect(judged.drawn.ampHours).toBeCloseTo(171, 6);
    // 171 Ah of 190, and 5 % were left: 90 / 0.95, worked by hand.
    expect(judged.percent).toBeCloseTo(94.737, 2);
  });
  test('one that did not empty it is none, nor one of a bank that nobody described', () => {
    expect(testOfDischarge({ ...one, holds: null, course: null }, system, id)).toBeNull();
    expect(testOfDischarge(one, { ...system, bank: {} }, id)).toBeNull();
  });
});
