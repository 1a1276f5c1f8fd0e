/** Two blocks in series with a charger each: what is right for a half is right, and the bank is judged by both together. */

import type { System } from '../schema';
import { reviewSettings } from './review';
import { lead } from '../../../../tests/support/ruleCases';

const charger = (id: string, across: 'lower' | 'upper', absorptionV = 14.4): System['sources'][number] => ({
  id,
  name: `${across} charger`,
  kind: 'mains',
  ratedA: 20,
  hoursPerDay: 12,
  across,
  counted: true,
  senses: 'battery',
  profile: {
    absorptionV,
    absorptionMinutes: 300,
    tailA: 2,
    floatV: 13.7,
    rebulkV: 12.7,
    compensationMvPerCellPerC: -4,
  },
});

const split = (
  sources: System['sources'],
  monitor: Partial<NonNullable<System['monitor']>> = {},
): System => ({
  name: 'Split bank',
  timeZone: 'Europe/Rome',
  bank: {
    ...lead().bank,
    cellsInSeries: 12,
    chargeVolts: { min: 28.4, max: 29.2 },
    floatVolts: { min: 27.2, max: 27.6 },
  },
  sources,
  monitor: {
    method: 'shunt',
    capacityAh: 100,
    chargedV: 27,
    tailPercent: 4,
    detectionMinutes: 3,
    efficiencyPercent: 84,
    peukert: 1.25,
    floorPercent: 50,
    thresholdA: 0.1,
    ...monitor,
  },
  loads: [{ id: 'lamp', name: 'Lamp', kind: 'dc', usualA: 1.5, hoursPerDay: 24, counted: true }],
});
const both = [charger('one', 'lower'), charger('two', 'upper')];
const row = (system: System, setting: string, of: string) =>
  reviewSettings(system).sheet.find((one) => one.setting === setting && one.of === of);

test('a half that is charged rightly is no fault, and nothing of twice its voltage is advised', () => {
  const review = reviewSettings(split(both));
  expect(review.notes.filter((one) => one.weight === 'fault')).toEqual([]);
  for (const id of ['one', 'two']) {
    expect(row(split(both), 'profile.absorptionV', id)).toMatchObject({ verdict: 'keep', advised: 14.4 });
    expect(row(split(both), 'profile.floatV', id)).toMatchObject({ verdict: 'keep', advised: 13.7 });
    expect(row(split(both), 'profile.rebulkV', id)).toMatchObject({ verdict: 'keep', advised: 12.7 });
  }
});

test('a half that is charged wrongly is a fault by its own figures', () => {
  const low = split([charger('one', 'lower', 13.6), both[1]!]);
  expect(reviewSettings(low).notes.find((one) => one.rule === 'charge-voltage')).toMatchObject({
    of: 'one',
    text: expect.stringMatching(
      /is set to 13\.6\d? V; the battery asks for 14\.2\d? V to 14\.6\d? V at 25 °C/,
    ),
  });
  expect(row(low, 'profile.absorptionV', 'one')).toMatchObject({ verdict: 'change', advised: 14.4 });
});

test('the charged voltage follows from what both halves reach together', () => {
  // Common practice, no source: float less 0.2 V a block.
  expect(row(split(both, { chargedV: 29.5 }), 'chargedV', 'monitor')).toMatchObject({
    verdict: 'change',
    advised: 2 * 13.7 - 0.4,
  });
  expect(row(split(both, { chargedV: 29.5 }), 'chargedV', 'monitor')!.why).toMatch(
    /no source goes above 28\.8/,
  );
});

test('a monitor that sees one half is judged by that half', () => {
  const seen = split(both, { sees: 'lower', chargedV: 13.5 });
  expect(row(seen, 'chargedV', 'monitor')).toMatchObject({ verdict: 'keep' });
  expect(row(split(both, { sees: 'lower', chargedV: 27 }), 'chargedV', 'monitor')).toMatchObject({
    verdict: 'change',
    advised: 13.5,
  });
});

test('where nothing charges all of the bank no charged voltage is advised, and no figure is infinite', () => {
  for (const sources of [[both[0]!], []]) {
    const review = reviewSettings(split(sources));
    expect(review.sheet.some((one) => one.setting === 'chargedV' && one.of === 'monitor')).toBe(false);
    for (const one of review.sheet)
      if (typeof one.advised === 'number') expect(Number.isFinite(one.advised)).toBe(true);
    expect(JSON.stringify(review)).not.toMatch(/Infinity|NaN/);
  }
});

describe('a charger that is not counted', () => {
  const fix = (change: Partial<System['sources'][number]>, method: 'shunt' | 'hall' = 'shunt') => {
    const system = split([{ ...both[0]!, counted: false, ...change }, both[1]!], { method });
    return reviewSettings(system).notes.find((one) => one.rule === 'source-coverage')!.fix;
  };

  test('of the whole bank: its negative is moved, or led through the clip-on sensor', () => {
    const whole = { across: 'bank' as const, profile: { absorptionV: 28.8 } };
    expect(fix(whole)).toMatch(/^Move the negative of lower charger to the other side of the shunt/);
    expect(fix(whole, 'hall')).toMatch(/through the clip-on sensor as well/);
    expect(fix(whole, 'hall')).not.toMatch(/negative/);
  });

  test('of a half: there are three ways, none of which moves a negative', () => {
    for (const across of ['lower', 'upper'] as const) {
      expect(fix({ across })).toMatch(/one sensor sits between the halves.*one half is counted.*by hand/);
      expect(fix({ across })).not.toMatch(/[Mm]ove/);
    }
  });
});
