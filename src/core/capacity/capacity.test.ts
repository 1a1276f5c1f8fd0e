/** Capacity tests: what comes out at the rated current, what a test comes to, and how it runs. */

import { demoSystem } from '../simulate/demo';
import { drawnOver, effectiveAh } from './effective';
import { judgeTest } from './judge';
import { planCapacityTest } from './plan';
import { type CapacityTest, capacityTestSchema } from './record';
import { runningTest } from './running';
import { capacityText, nextTestOn, testText } from './text';

const bank = demoSystem('fog-horn').system.bank;
const AGM = { bank };
const TEST: CapacityTest = {
  id: '00000000-0000-4000-8000-000000000001',
  on: '2026-04-14',
  from: 'typed',
  wasFull: true,
  celsius: 25,
  endedBy: 'end-voltage',
  ratedAh: 190,
  ratedHours: 10,
  exponent: 1.25,
  endVolts: 42,
  readings: [
    { minutes: 0, volts: 50, amps: 19 },
    { minutes: 300, volts: 47, amps: 19 },
    { minutes: 540, volts: 42, amps: 19 },
  ],
};
const judged = (some: Partial<CapacityTest> = {}) => judgeTest({ ...TEST, ...some }, AGM);

describe('at the rated current', () => {
  test('Peukert (Elektrotechnische Zeitschrift 20, 1897): whatever lasts its time has given the whole rating', () => {
    expect(effectiveAh(10, 8.7055, { capacityAh: 100, hours: 20 }, 1.2)).toBeCloseTo(100, 2);
    expect(effectiveAh(30, 2.675, { capacityAh: 120, hours: 20 }, 1.25)).toBeCloseTo(120, 2);
    expect(effectiveAh(5, 20, { capacityAh: 100, hours: 20 }, 1.2)).toBeCloseTo(100, 9);
  });
  test('below the rated current ampere-hours count as they are, and charge counts back', () => {
    expect(effectiveAh(2, 10, { capacityAh: 100, hours: 20 }, 1.25)).toBe(20);
    const hours = [0, 1, 2, 3].map((one) => one * 3_600_000);
    const drawn = drawnOver(
      hours,
      [-4, -4, -4, 4],
      [12, 12, 12, 12],
      { from: 0, to: 3 },
      {
        gap: Infinity,
        rated: { capacityAh: 100, hours: 20 },
        exponent: 1.25,
      },
    );
    expect(drawn).toMatchObject({ hours: 3, ampHours: 8, wattHours: 96, effectiveAh: 8, amps: 4 });
  });
});

describe('the result', () => {
  test('IEEE Std 450, time-adjusted, from memory: 100 · T / (T_specified · K_T)', () => {
    // 9 h of 10 h at 25 °C.
    expect(judged()).toMatchObject({ isComplete: true, isAtItsEnd: false, byCell: null, weak: [] });
    expect(judged().percent).toBeCloseTo(90, 9);
    // At 10 °C the table of IEEE Std 485 has 1.190: the same time is more of what it can give there.
    expect(judged({ celsius: 10 }).percent).toBeCloseTo(90 * 1.19, 6);
  });
  test('under 80 % it is at its end, above it is not', () => {
    const short = (minutes: number) =>
      judged({ readings: [TEST.readings[0]!, { minutes, volts: 42, amps: 19 }] });
    expect(short(0.79 * 600).isAtItsEnd).toBe(true);
    expect(short(0.81 * 600).isAtItsEnd).toBe(false);
    expect(testText(short(0.7 * 600))).toMatch(/70 % of the rating .* a battery at its end/);
  });
  test('stopped early, or not full before, it proves a battery good but not bad', () => {
    const early = judged({ endedBy: 'stopped', readings: TEST.readings.slice(0, 2) });
    expect(early).toMatchObject({ isComplete: false, isAtItsEnd: null });
    expect(testText(early)).toContain('at least 50 %');
    expect(judged({ endedBy: 'stopped' }).isAtItsEnd).toBe(false);
    const empty = judged({
      wasFull: false,
      readings: [TEST.readings[0]!, { minutes: 300, volts: 42, amps: 19 }],
    });
    expect(empty.isAtItsEnd).toBeNull();
    expect(empty.weak.join()).toContain('not full before');
    // Said to be at its end voltage, and far above it.
    expect(judged({ readings: TEST.readings.slice(0, 2) })).toMatchObject({ isComplete: false });
  });
  test('a short test of a battery that may not have been full proves nothing, a good one does', () => {
    const short = [TEST.readings[0]!, { minutes: 300, volts: 42, amps: 19 }];
    expect(judged({ wasFull: undefined, readings: short })).toMatchObject({
      isComplete: true,
      isAtItsEnd: null,
    });
    expect(judged({ wasFull: undefined }).isAtItsEnd).toBe(false);
  });
  test('what was left in it, by the log, counts as there', () => {
    // 90 % came out and 5 % of the whole was left: 90 / 0.95, worked by hand.
    const knee = judged({ endedBy: 'knee', left: 5 });
    expect(knee.percent).toBeCloseTo(94.737, 3);
    expect(knee.isComplete).toBe(true);
    expect(knee.band).toBeGreaterThan(judged({ endedBy: 'knee' }).band);
  });
  test('one cell that gave out is named, and not the bank blamed', () => {
    const readings = [
      TEST.readings[0]!,
      { minutes: 400, volts: 46, amps: 19, lowestCellVolts: 1.4, cell: '17' },
    ];
    const found = judged({ endedBy: 'cell', readings });
    expect(found).toMatchObject({ isComplete: true, byCell: '17' });
    expect(testText(found)).toContain('One cell (17) ended it');
  });
  test('what was not read widens the band', () => {
    expect(judged({ celsius: undefined }).band).toBeGreaterThan(judged().band * 1.3);
    expect(judged({ wasFull: undefined }).band).toBeGreaterThan(judged().band * 1.3);
  });
  test('the next is due in five years, or each year once it falls (IEEE Std 450, from memory)', () => {
    const good = judged({ readings: [TEST.readings[0]!, { minutes: 590, volts: 42, amps: 19 }] });
    expect(nextTestOn([])).toBeNull();
    expect(nextTestOn([good])).toBe('2031-04-13');
    expect(
      nextTestOn([judged({ readings: [TEST.readings[0]!, { minutes: 510, volts: 42, amps: 19 }] })]),
    ).toBe('2027-04-14');
    // Still above nine tenths, but a tenth less than before.
    const before = judged({
      on: '2025-04-14',
      readings: [TEST.readings[0]!, { minutes: 630, volts: 42, amps: 19 }],
    });
    const fallen = judged({ readings: [TEST.readings[0]!, { minutes: 550, volts: 42, amps: 19 }] });
    expect(nextTestOn([before, fallen])).toBe('2027-04-14');
    expect(capacityText([good]).at(-1)).toBe('Next capacity test due on 13 Apr 2031.');
  });
  test('readings in another order, or one alone, are no test', () => {
    const check = (readings: CapacityTest['readings']) => capacityTestSchema.safeParse({ ...TEST, readings });
    expect(check(TEST.readings).success).toBe(true);
    expect(check([...TEST.readings].reverse()).error!.issues[0]!.message).toContain(
      'comes after the one before',
    );
    expect(check(TEST.readings.slice(0, 1)).error!.issues[0]!.message).toContain('two readings at least');
  });
});

describe('while it runs', () => {
  const rated = { capacityAh: 190, hours: 10, exponent: 1.25 };
  const plan = planCapacityTest({
    chemistry: 'agm',
    cells: 24,
    capacityAh: 190,
    hours: 10,
    amps: 19,
    celsius: 25,
    exponent: 1.25,
  });
  test('what is out and left is said, and when to read next: more often near the end', () => {
    expect(runningTest(plan, [], rated)).toBeNull();
    const half = runningTest(plan, TEST.readings.slice(0, 2), rated)!;
    expect(half).toMatchObject({ stop: null, readAt: 360 });
    expect(half.lines).toEqual([
      '95 Ah in 5 h: 50 % of the rating at 25 °C so far.',
      'A battery in good order lasts about 5 h more.',
    ]);
    const late = runningTest(plan, [TEST.readings[0]!, { minutes: 500, volts: 44, amps: 19 }], rated)!;
    expect(late.readAt).toBe(530);
  });
  test('the load comes off at the end voltage, and for one low cell', () => {
    expect(runningTest(plan, TEST.readings, rated)!.stop).toMatch(
      /^The bank is at 42\.00 V.*Take the load off now/,
    );
    const cell = { minutes: 300, volts: 46, amps: 19, lowestCellVolts: 1.5, cell: '17' };
    expect(runningTest(plan, [TEST.readings[0]!, cell], rated)!.stop).toMatch(/^Cell 17 is at 1\.50 V/);
  });
  test('a battery that outlasts the rating is told so', () => {
    const long = [TEST.readings[0]!, { minutes: 630, volts: 43, amps: 19 }];
    expect(runningTest(plan, long, rated)!.lines[1]).toContain('30 min longer');
  });
});
