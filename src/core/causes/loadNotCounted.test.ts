/** Charge that the monitor shows going in and that never arrives: how much of it speaks for a load that it does not see. */

import { agm, sumOf } from '../../../tests/support/drawnCharges';
import type { Counting } from '../count/types';
import type { Judged } from './cause';
import { loadNotCounted } from './load-not-counted';

/** A bank of 100 Ah: a hundredth of an ampere is a tenth of a thousandth. @param missingA what never gets there, A */
const seen = (missingA: number, counted: boolean | null, part: Partial<Counting> = {}) =>
  ({
    bank: agm,
    job: {},
    system: {
      bank: agm,
      monitor: {},
      sources: [],
      loads: [{ id: 'pump', name: 'Pump', counted, usualA: 4, hoursPerDay: 3 }],
    },
    counting: {
      logged: { from: 0, to: 1 },
      wrong: { gain: 1, unseen: [] },
      meters: { bms: null, atFloat: null, shares: [], means: [], unseen: null },
      offsetA: { value: missingA },
      favours: { offset: 8, capacity: 0 },
      anchors: { full: 6 },
      behaves: null,
      ...part,
    },
  }) as unknown as Judged;
const weighed = (missingA: number, counted: boolean | null = true, part: Partial<Counting> = {}) =>
  sumOf(loadNotCounted.weigh!(seen(missingA, counted, part)));

test('the more is missing, the more it says; what any meter’s zero is off by says nothing for it', () => {
  const missing = (amps: number) => sumOf(loadNotCounted.weigh!(seen(amps, true)), 'missing');
  expect(missing(0.05)).toBeLessThan(0);
  const rising = [0.05, 0.15, 0.25, 0.4, 0.5, 0.7].map(missing);
  for (let i = 1; i < rising.length; i++) expect(rising[i]).toBeGreaterThan(rising[i - 1]!);
  // And only what is more than any zero is off by is said to be so.
  expect(sumOf(loadNotCounted.weigh!(seen(0.5, true)), 'too-much')).toBe(0);
  expect(sumOf(loadNotCounted.weigh!(seen(0.7, true)), 'too-much')).toBeGreaterThan(0);
});

test('a load of which nobody knows whether it is counted says more', () => {
  expect(weighed(0.4, null)).toBeGreaterThan(weighed(0.4, true));
});

test('and one that draws just that by its usual current and hours', () => {
  // 4 A for three hours a day are half an ampere all day.
  expect(loadNotCounted.weigh!(seen(0.5, true)).some((one) => one.text.includes('Pump draws 0.5 A'))).toBe(
    true,
  );
  expect(loadNotCounted.weigh!(seen(1.5, true)).some((one) => one.text.includes('draws'))).toBe(false);
});

test('nothing is said where the count is not sure of it, the sensor is turned, or the reading is made of the voltage', () => {
  expect(weighed(0.7, true, { favours: { offset: 1, capacity: 0 } })).toBe(0);
  expect(weighed(0.7, true, { anchors: { rest: 9 } })).toBe(0);
  expect(weighed(0.7, true, { wrong: { gain: -1, unseen: [] } } as unknown as Partial<Counting>)).toBe(0);
  const byVolts = seen(0.7, true);
  expect(
    sumOf(
      loadNotCounted.weigh!({
        ...byVolts,
        system: { ...byVolts.system, monitor: { method: 'voltage' } },
      } as unknown as Judged),
    ),
  ).toBe(0);
});

test('a load whose own log draws just that; not the only load, where the monitor shows the battery drawn on', () => {
  const beside = (drawnAmps: number, loads: object[]) => {
    const unseen = { spans: [], hours: 0, amps: NaN, drawnAmps, ofHours: 60 };
    const meters = {
      bms: null,
      atFloat: null,
      shares: [],
      means: [{ id: 'pump', kind: 'load', amps: 1 }],
      unseen,
    };
    const judged = seen(0.9, true, { meters } as unknown as Partial<Counting>);
    return sumOf(
      loadNotCounted.weigh!({ ...judged, system: { ...judged.system, loads } } as unknown as Judged),
      'same-amps',
    );
  };
  const pump = { id: 'pump', name: 'Pump', counted: true };
  expect(beside(-0.02, [pump])).toBeGreaterThan(5);
  expect(beside(-0.4, [pump])).toBe(0);
  // Another load may be what it shows.
  expect(beside(-0.4, [pump, { id: 'lamp', name: 'Lamp', counted: true }])).toBeGreaterThan(5);
});
