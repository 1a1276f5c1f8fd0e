/** Charge times are estimates (common practice, no source); the arithmetic is checked by integrating the current. */

import { absorptionHours, chargeTime, hoursToTail, missingAfterBulk } from './chargeTime';
import { bankOhms, sagVolts } from './sag';

test('the current that falls to the tail in those hours has put in just what was missing', () => {
  for (const [missing, start, tail] of [
    [20, 15, 2],
    [8, 40, 4],
    [30, 10, 5],
  ] as const) {
    const hours = hoursToTail(missing, start, tail);
    const tau = hours / Math.log(start / tail);
    let put = 0;
    const steps = 20_000;
    for (let i = 0; i < steps; i++)
      put += start * Math.exp(-((i + 0.5) / steps) * (hours / tau)) * (hours / steps);
    expect(put).toBeCloseTo(missing, 4);
  }
});

test('at the tail already there is nothing to wait for', () => {
  expect(hoursToTail(10, 2, 2)).toBe(0);
  expect(hoursToTail(10, 1, 2)).toBe(0);
});

test('at a fifth of capacity bulk leaves 15 to 20 % missing; weaker chargers leave less', () => {
  expect(missingAfterBulk(0.2)).toEqual({ min: expect.closeTo(0.15, 9), max: expect.closeTo(0.2, 9) });
  expect(missingAfterBulk(0.05).max).toBeLessThan(missingAfterBulk(0.2).min);
  expect(missingAfterBulk(2).max).toBeLessThan(0.35);
});

test('absorption takes hours, and longer to a lower tail', () => {
  const early = absorptionHours(100, 20, 4);
  const full = absorptionHours(100, 20, 2);
  expect(early.min).toBeGreaterThan(1);
  expect(full.min).toBeGreaterThan(early.min);
  expect(full.max).toBeLessThan(4);
});

test('from empty to full, bulk and absorption', () => {
  // Lithium: 90 Ah missing at 30 A and 98 %.
  expect(chargeTime(100, 30, 10, 0.98, null)).toEqual({
    bulkHours: expect.closeTo(90 / 29.4, 9),
    absorptionHours: 0,
  });
  const lead = chargeTime(100, 20, 50, 0.85, 2);
  // 50 Ah missing, 17.5 of them in absorption: 32.5 / 17.
  expect(lead.bulkHours).toBeCloseTo(32.5 / 17, 9);
  expect(lead.absorptionHours).toBeGreaterThan(2);
  // Nearly full already: no bulk.
  expect(chargeTime(100, 20, 95, 0.85, 2).bulkHours).toBeCloseTo(0, 9);
});

test('sag: 10 mΩ for a 100 Ah lead block, half for lithium, and the cable there and back', () => {
  expect(bankOhms({ chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 })).toBeCloseTo(0.01, 9);
  expect(bankOhms({ chemistry: 'lfp', cellsInSeries: 16, capacityAh: 200 })).toBeCloseTo(0.01, 9);
  const sag = sagVolts(
    { chemistry: 'agm', cellsInSeries: 12, capacityAh: 100 },
    { metres: 10, squareMm: 16 },
    50,
  );
  expect(sag.battery).toBeCloseTo(1, 9);
  // 20 m of 1.15 Ω/km at 30 °C.
  expect(sag.cable).toBeCloseTo(50 * 0.02 * 1.15 * 1.0393, 9);
  expect(sagVolts({ chemistry: 'agm', cellsInSeries: 12, capacityAh: 100 }, undefined, 50).cable).toBe(0);
});
