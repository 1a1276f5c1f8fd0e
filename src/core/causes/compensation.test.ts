/** The temperature that a charger goes by, and slopes: charges set down by hand. */

import type { SourceCharging } from '../charge/types';
import { chargeVoltageLow } from './charge-voltage-low';
import { goesBy, inDoubt, isKnown } from './compensation';
import { compensationMissing } from './compensation-missing';
import { compensationWrong } from './compensation-wrong';
import { held, lithium, profile, seen, source, sumOf } from '../../../tests/support/drawnCharges';

// At −4 mV per °C and cell, six cells move by 24 mV per °C: 14.40 V at 25 °C is 14.76 V at 10 °C.
describe('the temperature that a charger goes by', () => {
  test('is the battery’s where its plateaus stand where they should', () => {
    expect(goesBy(held(14.76, 14.06, 10))!.off).toBeCloseTo(0, 6);
  });
  test('lies as far above as its plateaus stand too low, at absorption and float alike', () => {
    const by = goesBy(held(14.76 - 0.288, 14.06 - 0.288, 10))!;
    expect(by.off).toBeCloseTo(12, 6);
    expect(by.both).toBe(true);
  });
  test('is not told where only one of the two is off: that is a setting', () => {
    expect(goesBy(held(14.2, 14.06, 10))).toBeNull();
  });
  test('nor without a slope', () => {
    const none = { ...source, profile: { absorptionV: 14.4, floatV: 13.7 } };
    expect(goesBy(held(14.4, 13.7, 10, { slope: null, source: none }))).toBeNull();
  });
  test('speaks for a wrong compensation and against a voltage that is set too low', () => {
    const off = held(14.76 - 0.48, 14.06 - 0.48, 10);
    const wrong = compensationWrong.weigh!(seen([off]));
    expect(wrong.find((one) => one.group === 'sensor')!.decibans).toBeGreaterThan(10);
    expect(wrong.find((one) => one.group === 'sensor')!.text).toContain('20 °C above');
    const low = chargeVoltageLow.weigh!(seen([off]));
    expect(low.find((one) => one.group === 'temperature')!.decibans).toBeLessThan(-5);
  });
});

test('a charger that is set to no compensation, and holds in the cold what it is set to: setting and log say the same', () => {
  const groups = (absorptionV: number) => {
    const none = { ...source, profile: { ...profile, absorptionV, compensationMvPerCellPerC: 0 } };
    const one = held(14.4, 13.7, 2, {
      slope: null,
      source: none,
      setpoints: { voltsPerC: 0 } as SourceCharging['setpoints'],
    });
    return compensationMissing.weigh!(seen([one])).map(({ group }) => group);
  };
  expect(groups(14.4)).toEqual(['as-set', 'right-at-25']);
  // Set higher, it delivers less than it shows.
  expect(groups(15)).toEqual(['right-at-25']);
});

test('a plateau that would be right at 25 °C is low for want of compensation, not by its setting', () => {
  const none = { ...source, profile: { ...profile, compensationMvPerCellPerC: 0 } };
  const low = chargeVoltageLow.weigh!(seen([held(14.4, 13.7, 2, { slope: null, source: none })]));
  expect(low.find((one) => one.group === 'temperature')!.text).toMatch(/At 25 °C it would be right/);
});

test('lithium above its setting in the cold is compensated, unless another charger goes as high', () => {
  const bank = { ...lithium, chargeVolts: { min: 14.2, max: 14.6 } };
  const one = held(14.6, 13.5, 8, { bank, source: { ...source, profile: { absorptionV: 14.33 } } });
  const other = held(14.6, 13.5, 8, {
    bank,
    source: { ...source, id: 'd', profile: { absorptionV: 14.6 } },
  });
  const sum = (...all: SourceCharging[]) => sumOf(compensationWrong.weigh!(seen(all, bank)), 'sensor');
  expect(sum(one)).toBeGreaterThan(8);
  expect(sum(one, other)).toBe(0);
  // At a float where the charger gives nothing the battery rests.
  const float = (usualSourceAmps: number) => {
    const at = held(14.4, 13.7, 8, { bank, source: { ...source, profile: { floatV: 13.5 } } });
    for (const { stages } of at.charges) stages[1]!.usualSourceAmps = usualSourceAmps;
    return at;
  };
  expect(sum(float(2))).toBeGreaterThan(8);
  expect(sum(float(0))).toBe(0);
});

test('a slope whose error carries it outside clears nobody, and one charger that is wrong is enough', () => {
  const sloping = (mvPerCell: number, error: number) =>
    held(14.4, 13.7, 25, {
      slope: { mvPerCell, error, from: 20, to: 28, hours: 60 },
      source: { ...source, profile: {} },
    });
  const sum = (...all: SourceCharging[]) => sumOf(compensationWrong.weigh!(seen(all)), 'slope');
  expect(sum(sloping(-4, 0.3))).toBeLessThan(-3);
  expect(sum(sloping(-6.5, 1))).toBe(0);
  expect(sum(sloping(-9, 0.3), sloping(-4, 0.3))).toBe(sum(sloping(-9, 0.3)));
  expect(sum(sloping(-9, 0.3))).toBeGreaterThan(10);
});

test('a slope in doubt is moved towards what it is not to be told from, never past it', () => {
  const slope = { mvPerCell: -0.5, error: 1, from: 5, to: 12, hours: 20 };
  expect(inDoubt(slope, -4)).toBeCloseTo(-1.2, 6);
  expect(inDoubt({ ...slope, error: 9 }, -4)).toBe(-4);
  expect(isKnown({ ...slope, error: 1.5 })).toBe(false);
});

test('what lies further off than any sensor makes it is no compensation', () => {
  const off = (volts: number) =>
    compensationWrong.weigh!(seen([held(volts, 13.7, 10, { slope: null })])).filter(
      (one) => one.group === 'sensor' && one.decibans > 0,
    );
  expect(off(14.3)).toHaveLength(1);
  expect(off(13.2)).toEqual([]);
});

test('a temperature moves absorption and float alike: one that is off alone is set so', () => {
  const off = (absorption: number, float: number) =>
    sumOf(
      compensationWrong.weigh!(seen([held(absorption, float, 24, { slope: null })])).filter(
        (one) => one.decibans > 0,
      ),
    );
  expect(off(13.9, 13.2)).toBeGreaterThan(10);
  expect(off(13.9, 13.7)).toBe(0);
});

test('a float in which the source still gives all it has is none, and tells no temperature', () => {
  const off = (endSourceAmps: number) => {
    const one = held(NaN, 14.2, 24, { slope: null });
    const charges = one.charges.map((charge) => ({
      ...charge,
      stages: charge.stages
        .filter(({ stage }) => stage === 'float')
        .map((stage) => ({ ...stage, endSourceAmps })),
    }));
    return sumOf(
      compensationWrong.weigh!(seen([{ ...one, charges, bulkAmps: 10 }])).filter((each) => each.decibans > 0),
    );
  };
  expect(off(2)).toBeGreaterThan(10);
  expect(off(9)).toBe(0);
});

test('lithium is not cleared by a slope that is plainly some, and is by none', () => {
  const slope = (mvPerCell: number) =>
    sumOf(
      compensationWrong.weigh!(
        seen(
          [
            held(14.4, 13.6, 20, {
              bank: lithium,
              slope: { mvPerCell, error: 0.2, from: 5, to: 12, hours: 90 },
            }),
          ],
          lithium,
        ),
      ),
      'slope',
    );
  expect(slope(-1.5)).toBe(0);
  expect(slope(-0.3)).toBeLessThan(-3);
  expect(slope(-3)).toBeGreaterThan(10);
  // No charger holds more in the warmth: there it rests, and says nothing.
  expect(slope(3.6)).toBe(0);
  expect(slope(0.3)).toBeLessThan(-3);
});

test('lithium that is set to be compensated at all is wrong by its setting; lead only by a slope that is far off', () => {
  const told = (chemistry: 'lfp' | 'agm', mv: number) =>
    sumOf(
      compensationWrong.described!({
        system: {
          bank: { chemistry },
          sources: [{ ...source, profile: { ...profile, compensationMvPerCellPerC: mv } }],
        },
      } as unknown as Parameters<NonNullable<typeof compensationWrong.described>>[0]),
    );
  expect(told('lfp', -3)).toBeGreaterThan(10);
  expect(told('lfp', 0)).toBe(0);
  expect(told('agm', -4)).toBe(0);
  expect(told('agm', -8)).toBeGreaterThan(0);
});
