/** Peukert's law (W. Peukert, Elektrotechnische Zeitschrift 20, 1897); the examples are worked by hand. */

import { capacityAtRate, dischargeHours, usableCapacity, usualExponent } from './peukert';

const BANK = { capacityAh: 100, hours: 20 };

test('at the rated current it lasts its hours; at twice the current less than half of them', () => {
  expect(dischargeHours(BANK, 5, 1.2)).toBeCloseTo(20, 9);
  // 20 · 0.5^1.2 = 8.7055.
  expect(dischargeHours(BANK, 10, 1.2)).toBeCloseTo(8.7055, 3);
  expect(usableCapacity(BANK, 10, 1.2)).toBeCloseTo(87.055, 2);
});

test('an exponent of 1 is no loss at all', () => {
  expect(usableCapacity(BANK, 40, 1)).toBeCloseTo(100, 9);
});

test('a capacity at another rate is what comes out at that current', () => {
  const atFive = capacityAtRate(BANK, 5, 1.25);
  expect(atFive).toBeLessThan(100);
  expect(usableCapacity(BANK, atFive / 5, 1.25)).toBeCloseTo(atFive, 6);
});

test('lithium loses less to the rate than lead (common practice)', () => {
  expect(usualExponent('lfp')).toBeLessThan(usualExponent('gel'));
  expect(usualExponent('flooded')).toBe(usualExponent('agm'));
});
