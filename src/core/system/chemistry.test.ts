import { demoSite } from '../simulate/demo';
import { blocksInSeries, CHEMISTRY, expectedVolts } from './chemistry';
import type { KnownBank } from './known';
import { systemSchema } from './schema';

const agm: KnownBank = {
  chemistry: 'agm',
  cellsInSeries: 6,
  stringsInParallel: 1,
  capacityAh: 100,
  capacityHours: 20,
  chargeVolts: { min: 14.2, max: 14.6 },
};

describe('charge voltages of a 12 V block at 25 °C (common practice, no source)', () => {
  test.each([
    ['gel', 14.1],
    ['agm', 14.4],
    ['flooded', 14.4],
    ['lfp', 14.4],
  ] as const)('%s: %d V is the middle', (chemistry, volts) => {
    const { chargeV, cellsPerBlock } = CHEMISTRY[chemistry];
    expect((cellsPerBlock * (chargeV.min + chargeV.max)) / 2).toBeCloseTo(volts, 9);
  });
  test('lead floats at 13.6 to 13.8 V, lithium at most at 13.6 V', () => {
    expect(CHEMISTRY.gel.floatV.min * 6).toBeCloseTo(13.6, 9);
    expect(CHEMISTRY.gel.floatV.max * 6).toBeCloseTo(13.8, 9);
    expect(CHEMISTRY.lfp.floatV.max * 4).toBeCloseTo(13.6, 9);
  });
});

describe('what voltage a bank should be held at', () => {
  test('at 25 °C the told range; without a temperature too', () => {
    expect(expectedVolts(agm, 'absorption', 25)).toEqual({ min: 14.2, max: 14.6 });
    expect(expectedVolts(agm, 'absorption', NaN)).toEqual({ min: 14.2, max: 14.6 });
  });

  test('cold wants more, warm less: −3 to −5 mV per °C per cell, the whole permitted range', () => {
    const cold = expectedVolts(agm, 'absorption', 5);
    expect(cold.min).toBeCloseTo(14.2 + 0.003 * 6 * 20, 9);
    expect(cold.max).toBeCloseTo(14.6 + 0.005 * 6 * 20, 9);
    const warm = expectedVolts(agm, 'absorption', 35);
    expect(warm.min).toBeCloseTo(14.2 - 0.005 * 6 * 10, 9);
    expect(warm.max).toBeCloseTo(14.6 - 0.003 * 6 * 10, 9);
  });

  test('the maker’s compensation goes before the chemistry’s', () => {
    const bank = { ...agm, compensationMvPerCellPerC: { min: -4, max: -4 } };
    expect(expectedVolts(bank, 'absorption', 15)).toEqual({
      min: expect.closeTo(14.44, 9),
      max: expect.closeTo(14.84, 9),
    });
  });

  test('lithium is not compensated', () => {
    const lithium: KnownBank = { ...agm, chemistry: 'lfp', cellsInSeries: 4 };
    expect(expectedVolts(lithium, 'absorption', 0)).toEqual({ min: 14.2, max: 14.6 });
  });

  test('float without a told range is the chemistry’s, scaled by cells', () => {
    const { min, max } = expectedVolts({ ...agm, cellsInSeries: 24 }, 'float', 25);
    expect([min, max]).toEqual([expect.closeTo(54.4, 9), expect.closeTo(55.2, 9)]);
    expect(blocksInSeries({ ...agm, cellsInSeries: 24 })).toBe(4);
  });
});

describe('the schema of a system', () => {
  const { system } = demoSite('harbour-office');
  const message = (change: (copy: typeof system) => void): string => {
    const copy = structuredClone(system);
    change(copy);
    const parsed = systemSchema.safeParse(copy);
    return parsed.success
      ? ''
      : parsed.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`).join('\n');
  };

  test('the demo systems are valid', () => {
    for (const slug of ['tide-gauge', 'harbour-office'])
      expect(systemSchema.safeParse(demoSite(slug).system).success).toBe(true);
  });
  test('what is impossible is told with its place', () => {
    expect(message((copy) => (copy.bank.capacityAh = -1))).toMatch(/^bank\.capacityAh: /);
    expect(message((copy) => (copy.bank.chargeVolts = { min: 29, max: 28 }))).toMatch(
      /lower end of the range is above the upper/,
    );
    expect(message((copy) => (copy.sources[0]!.id = 'Mains Charger'))).toMatch(
      /small letters, digits and hyphens/,
    );
    expect(message((copy) => (copy.loads[0]!.id = 'mains'))).toMatch(/The id "mains" is taken/);
    expect(message((copy) => (copy.sources[0]!.id = 'monitor'))).toMatch(/The id "monitor" is taken/);
  });
  test('what is not known may be left out', () => {
    expect(message((copy) => delete copy.monitor)).toBe('');
    expect(message((copy) => (copy.sources[0]!.profile = { absorptionV: 28.2 }))).toBe('');
  });
});
