/** What the settings sheet advises, worked by hand from the trade's figures (common practice, no source). */

import type { System } from '../schema';
import { ADVICE, chargingAmps } from './advice';
import { reviewSettings } from './review';
import { subjectOf } from './subject';

/** Settings all unknown but what the advice needs. */
const lead: System = {
  name: 'L',
  timeZone: 'UTC',
  bank: { chemistry: 'gel', cellsInSeries: 12, capacityAh: 100, capacityHours: 20 },
  sources: [
    {
      id: 'a',
      name: 'A',
      kind: 'mains',
      ratedA: 20,
      profile: { absorptionV: 28.2, floatV: 27.4 },
      counted: true,
    },
  ],
  monitor: {},
  loads: [{ id: 'x', name: 'X', usualA: 5, hoursPerDay: 24, counted: true }],
};
const lithium: System = {
  ...lead,
  bank: { chemistry: 'lfp', cellsInSeries: 16, capacityAh: 100, chargeVolts: { min: 56, max: 58.4 } },
  sources: [{ id: 'a', name: 'A', kind: 'mains', ratedA: 20, profile: { absorptionV: 57 }, counted: true }],
  bms: { cellHighV: 3.65, cellLowV: 2.8, balanceV: 3.4 },
};

const advised = (system: System): Record<string, number | string> =>
  Object.fromEntries(reviewSettings(system).sheet.map((row) => [`${row.of} ${row.setting}`, row.advised]));

test('a 24 V gel bank on mains', () => {
  expect(advised(lead)).toMatchObject({
    'a profile.tailA': 2,
    'a profile.rebulkV': 25.4,
    'a profile.compensationMvPerCellPerC': -4,
    'monitor capacityAh': 100,
    // Steady school: float less 0.2 V a block.
    'monitor chargedV': 27,
    'monitor tailPercent': 4,
    'monitor detectionMinutes': 3,
    'monitor efficiencyPercent': 83,
    'monitor peukert': 1.25,
    'monitor floorPercent': 50,
    'monitor thresholdA': 0.1,
    // 2 × 12.24 at half, less 5 A through 2 · 1 Ω·Ah / 100 Ah = 0.1 V, held at the kind 12.0 V a block.
    'x cutoffV': 24,
    'x alarmV': 24.6,
    'x reconnectV': 26,
  });
});

test('the same bank on solar: the varying school, and a tail above the charger’s own', () => {
  const solar = { ...lead, sources: [{ ...lead.sources[0]!, kind: 'solar' as const }] };
  expect(advised(solar)).toMatchObject({
    'monitor chargedV': 27.8,
    'monitor tailPercent': 5,
    'monitor detectionMinutes': 4,
  });
  const late = {
    ...solar,
    sources: [{ ...solar.sources[0]!, profile: { absorptionV: 28.2, floatV: 27.4, tailA: 5 } }],
  };
  expect(advised(late)['monitor tailPercent']).toBe(6);
});

test('a 48 V lithium pack', () => {
  expect(advised(lithium)).toMatchObject({
    // Gap school: 3.35 V a cell.
    'a profile.floatV': 53.6,
    // With a gap no absorption, but what the monitor’s detection time asks for.
    'a profile.absorptionMinutes': 5,
    'a profile.tailA': 4,
    'a profile.rebulkV': 52.8,
    'a profile.compensationMvPerCellPerC': 0,
    'monitor capacityAh': 100,
    // 57 less 0.2 V a block.
    'monitor chargedV': 56.2,
    'monitor efficiencyPercent': 98,
    'monitor peukert': 1.05,
    'monitor floorPercent': 10,
    // Above 16 · 2.8 V of the BMS by 0.1 V a cell at the least: 46.4; rest at 12 % less sag is 48.9.
    'x cutoffV': 48.9,
  });
});

test('schools', () => {
  const at = (schools: System['schools']) => advised({ ...lithium, schools });
  expect(at({ lithiumSync: 'fixed-13.8' })['monitor chargedV']).toBe(55.2);
  expect(at({ lithiumSync: 'fixed-13.5' })['monitor chargedV']).toBe(54);
  expect(at({ lithiumTail: '1' })['monitor tailPercent']).toBe(1);
  expect(at({ lithiumFloat: 'equal' })['a profile.floatV']).toBe(57);
  expect(at({ lithiumFloat: 'none' })).not.toHaveProperty('a profile.floatV');
  expect(at({ lithiumAbsorption: 'none' })['a profile.absorptionMinutes']).toBe(5);
  expect(at({ lithiumAbsorption: 'balance' })['a profile.absorptionMinutes']).toBe(60);
  expect(at({ lithiumFloat: 'none' })['a profile.absorptionMinutes']).toBe(60);
  expect(at({ lithiumEfficiency: '95', lithiumPeukert: '1.1' })).toMatchObject({
    'monitor efficiencyPercent': 95,
    'monitor peukert': 1.1,
  });
  expect(advised({ ...lead, schools: { efficiency: 'near-top' } })['monitor efficiencyPercent']).toBe(78);
});

test('the charge voltage of lithium keeps clear of the BMS and above the start of balancing', () => {
  const set = (bms: System['bms'], absorptionV = 60) => {
    const [source] = lithium.sources;
    const system = { ...lithium, bms, sources: [{ ...source!, profile: { absorptionV } }] };
    return reviewSettings(system).sheet.find((row) => row.setting === 'profile.absorptionV')!;
  };
  // 3.5 V a cell by the gap school.
  expect(set({ cellHighV: 3.65, balanceV: 3.4 })).toMatchObject({ verdict: 'change', advised: 56 });
  // Balancing from 3.52: 3.54 V a cell.
  expect(set({ cellHighV: 3.65, balanceV: 3.52 }).advised).toBeCloseTo(56.65, 9);
  // A limit of 3.5: 3.45 V a cell.
  expect(set({ cellHighV: 3.5 }).advised).toBeCloseTo(55.2, 9);
});

test('equalisation is advised where the maker asks for it, and off where it may not be', () => {
  const flooded: System = {
    ...lead,
    bank: { ...lead.bank, chemistry: 'flooded', equalise: { volts: 31, minutes: 90, everyDays: 45 } },
  };
  expect(advised(flooded)).toMatchObject({
    'a profile.equalise.volts': 31,
    'a profile.equalise.minutes': 90,
    'a profile.equalise.everyDays': 45,
    'a profile.equalise.retryDays': 1,
  });
  expect(advised({ ...flooded, schools: { retry: 'must-happen' } })['a profile.equalise.retryDays']).toBe(45);
  const [source] = lead.sources;
  const gel = {
    ...lead,
    sources: [
      { ...source!, profile: { ...source!.profile, equalise: { volts: 31, minutes: 60, everyDays: 30 } } },
    ],
  };
  expect(advised(gel)['a profile.equalise.volts']).toBe('off');
  expect(Object.keys(advised(lead)).some((key) => key.includes('equalise'))).toBe(false);
});

test('the current that charges: sources together, standing loads taken off, never above the battery’s limit', () => {
  const amps = (change: Partial<System>) => chargingAmps(subjectOf({ ...lead, ...change }));
  expect(amps({})).toBe(15);
  expect(amps({ loads: [] })).toBe(20);
  expect(amps({ loads: [{ id: 'x', name: 'X', usualA: 40, hoursPerDay: 24, counted: true }] })).toBe(4);
  expect(amps({ bank: { ...lead.bank, maxChargeA: 12 } })).toBe(12);
  expect(amps({ sources: [...lead.sources, { ...lead.sources[0]!, id: 'half', across: 'lower' }] })).toBe(15);
});

test('no setting is advised on twice', () => {
  const keys = ADVICE.map((row) => `${row.on} ${row.setting}`);
  expect(new Set(keys).size).toBe(keys.length);
});
