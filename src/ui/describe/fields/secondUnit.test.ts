import fc from 'fast-check';
import { demoSystem } from '@/core/simulate/demo';
import { readNumber, secondUnit, tidy } from './secondUnit';

const { system } = demoSystem('fog-horn');

test('figures worked by hand', () => {
  const show = (
    path: string,
    unit: Parameters<typeof secondUnit>[1],
    value: number,
    view: 'cell' | '12' = 'cell',
  ) => {
    const second = secondUnit(path, unit, system, view)!;
    return [tidy(second.to(value), second.digits), second.unit];
  };
  expect(show('sources.0.profile.absorptionV', 'V', 57.6)).toEqual([2.4, 'V/cell']);
  expect(show('sources.0.profile.absorptionV', 'V', 57.6, '12')).toEqual([14.4, 'V at 12 V']);
  expect(show('sources.0.ratedA', 'A', 19)).toEqual([10, '% of C']);
  expect(show('monitor.tailPercent', '%', 4)).toEqual([8.4, 'A']);
  expect(show('site.coldestC', '°C', -40)).toEqual([-40, '°F']);
  expect(show('loads.0.conductor.squareMm', 'mm²', 13.3)).toEqual([6, 'AWG']);
  expect(show('bms.cellHighV', 'V', 3.65)).toEqual([87.6, 'V bank']);
});

test('there and back is the same figure', () => {
  for (const [path, unit] of [
    ['monitor.chargedV', 'V'],
    ['monitor.tailPercent', '%'],
    ['sources.0.profile.tailA', 'A'],
    ['site.warmestC', '°C'],
    ['bank.compensationMvPerCellPerC.min', 'mV/°C'],
    ['loads.0.conductor.squareMm', 'mm²'],
  ] as const) {
    const { to, from } = secondUnit(path, unit, system, '24')!;
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 500, noNaN: true }), (value) => {
        expect(from(to(value))).toBeCloseTo(value, 6);
      }),
    );
  }
});

test('what cannot be said is not shown', () => {
  const unknown = { ...system, bank: {} };
  expect(secondUnit('monitor.chargedV', 'V', unknown, 'cell')).toBeNull();
  expect(secondUnit('sources.0.ratedA', 'A', unknown, 'cell')).toBeNull();
  expect(secondUnit('monitor.floorPercent', '%', system, 'cell')).toBeNull();
  expect(secondUnit('monitor.detectionMinutes', 'min', system, 'cell')).toBeNull();
});

test('numbers as they are typed', () => {
  expect(readNumber(' 14,4 ')).toBe(14.4);
  expect(readNumber('−4')).toBe(-4);
  expect(readNumber('')).toBeUndefined();
  expect(readNumber('14.4 V')).toBe('14.4 V');
});
