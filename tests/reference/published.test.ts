/** Checks against published sources, each named beside its check. "From memory" says that the value was not read off the source. */

import { fitLine } from '@/core/quantity/numbers';
import { requiredAirflow, freeOpeningSquareCm } from '@/core/system/airflow';
import { awgToSquareMm, ohmsPerKm, pairOhms, squareMmToAwg } from '@/core/system/conductor';
import { gravityAtReference, percentOfGravity, restVoltsOfGravity } from '@/core/system/gravity';
import { capacityAtRate, dischargeHours, usableCapacity } from '@/core/system/peukert';
import { restPercent } from '@/core/system/restVoltage';
import { leadCapacityShare } from '@/core/system/capacityTemperature';

describe("Peukert's law (W. Peukert, Elektrotechnische Zeitschrift 20, 1897)", () => {
  const rated = { capacityAh: 100, hours: 20 };
  test('100 Ah at 20 h, k = 1.2, 10 A lasts 8.7055 h', () => {
    expect(dischargeHours(rated, 10, 1.2)).toBeCloseTo(8.7055, 4);
  });
  test('100 Ah at 20 h, k = 1.25, 50 A gives 56.234 Ah', () => {
    expect(usableCapacity(rated, 50, 1.25)).toBeCloseTo(56.234, 3);
  });
  test('at the rated current exactly the rated capacity comes out', () => {
    expect(usableCapacity(rated, 5, 1.3)).toBeCloseTo(100, 9);
  });
  test('the capacity at another hour rate lasts just those hours', () => {
    for (const hours of [1, 5, 10, 20, 100]) {
      const capacity = capacityAtRate(rated, hours, 1.25);
      expect(dischargeHours(rated, capacity / hours, 1.25)).toBeCloseTo(hours, 9);
    }
  });
});

test('rest voltage of 12 V lead-acid (Battery Council International, from memory)', () => {
  for (const [volts, percent] of [
    [12.65, 100],
    [12.45, 75],
    [12.24, 50],
    [12.06, 25],
    [11.89, 0],
  ] as const)
    expect(restPercent('agm', volts)).toBeCloseTo(percent, 6);
  expect(restPercent('agm', 12.345)).toBeCloseTo(62.5, 6);
});

test('open-circuit voltage of a lead-acid cell (Linden & Reddy, Handbook of Batteries, from memory): gravity + 0.84', () => {
  expect(restVoltsOfGravity(1.265)).toBeCloseTo(2.105, 9);
  // The two published tables agree with each other within 0.03 V on a 12 V block.
  for (const [gravity, volts] of [
    [1.265, 12.65],
    [1.225, 12.45],
    [1.19, 12.24],
  ] as const)
    expect(Math.abs(6 * restVoltsOfGravity(gravity) - volts)).toBeLessThan(0.07);
});

test('specific gravity against state of charge (Battery Council International, from memory)', () => {
  for (const [gravity, percent] of [
    [1.265, 100],
    [1.225, 75],
    [1.19, 50],
    [1.155, 25],
    [1.12, 0],
  ] as const)
    expect(percentOfGravity(gravity)).toBeCloseTo(percent, 6);
});

describe('specific gravity to a common temperature', () => {
  test('IEEE Std 450 (from memory): 0.001 for each 1.67 °C, reference 25 °C', () => {
    expect(gravityAtReference(1.25, 25, 'ieee')).toBeCloseTo(1.25, 9);
    expect(gravityAtReference(1.25, 26.67, 'ieee')).toBeCloseTo(1.251, 9);
    expect(gravityAtReference(1.25, 25 - 5 * 1.67, 'ieee')).toBeCloseTo(1.245, 9);
  });
  test('BCI (from memory): 0.004 for each 10 °F, reference 80 °F', () => {
    const celsius = (fahrenheit: number) => (fahrenheit - 32) / 1.8;
    expect(gravityAtReference(1.25, celsius(80), 'bci')).toBeCloseTo(1.25, 9);
    expect(gravityAtReference(1.25, celsius(100), 'bci')).toBeCloseTo(1.258, 9);
    expect(gravityAtReference(1.25, celsius(30), 'bci')).toBeCloseTo(1.23, 9);
  });
});

test('airflow against hydrogen (IEC 62485-2, from memory)', () => {
  expect(requiredAirflow('flooded', 24, 400, 'boost')).toBeCloseTo(9.6, 9);
  expect(requiredAirflow('flooded', 24, 400, 'float')).toBeCloseTo(2.4, 9);
  expect(requiredAirflow('gel', 24, 400, 'boost')).toBeCloseTo(3.84, 9);
  expect(requiredAirflow('agm', 24, 400, 'float')).toBeCloseTo(0.48, 9);
  expect(freeOpeningSquareCm(9.6)).toBeCloseTo(268.8, 9);
});

describe('copper conductors (IEC 60228 class 2, from memory)', () => {
  test.each([
    [6, 3.08],
    [10, 1.83],
    [16, 1.15],
    [25, 0.727],
    [35, 0.524],
    [50, 0.387],
    [70, 0.268],
    [95, 0.193],
  ])('%d mm²: %d Ω/km at 20 °C', (area, ohms) => {
    expect(ohmsPerKm(area)).toBeCloseTo(ohms, 9);
    expect(pairOhms(500, area)).toBeCloseTo(ohms, 9);
    expect(pairOhms(500, area, 30)).toBeCloseTo(ohms * 1.0393, 9);
  });
  test('American wire gauge (ASTM B258, from memory): 6 AWG 13.30 mm², 2/0 67.43 mm², and back', () => {
    expect(awgToSquareMm(6)).toBeCloseTo(13.3, 1);
    expect(awgToSquareMm(-1)).toBeCloseTo(67.43, 1);
    for (const gauge of [-3, 0, 4, 10, 18]) expect(squareMmToAwg(awgToSquareMm(gauge))).toBeCloseTo(gauge, 9);
  });
});

test('temperature factor of lead-acid capacity (IEEE Std 485, from memory)', () => {
  for (const [celsius, factor] of [
    [-3.9, 1.52],
    [4.4, 1.3],
    [10, 1.19],
    [15.6, 1.11],
    [20, 1.056],
    [25, 1],
    [29.4, 0.96],
    [35, 0.93],
    [40.6, 0.89],
  ] as const)
    expect(1 / leadCapacityShare(celsius)).toBeCloseTo(factor, 9);
});

test('line fit against NIST StRD, data set Norris, certified values', () => {
  const points =
    '0.1 0.2; 338.8 337.4; 118.1 118.2; 888.0 884.6; 9.2 10.1; 228.1 226.5; 668.5 666.3; 998.5 996.3; 449.1 448.6; 778.9 777.0; 559.2 558.2; 0.3 0.4; 0.1 0.6; 778.1 775.5; 668.8 666.9; 339.3 338.0; 448.9 447.5; 10.8 11.6; 557.7 556.0; 228.3 228.1; 998.0 995.8; 888.8 887.6; 119.6 120.2; 0.3 0.3; 0.6 0.3; 557.6 556.8; 339.3 339.1; 888.0 887.2; 998.5 999.0; 778.9 779.0; 10.2 11.1; 117.6 118.3; 228.9 229.2; 668.4 669.1; 449.2 448.9; 0.2 0.5'
      .split(';')
      .map((pair) => pair.trim().split(' ').map(Number));
  const fit = fitLine(
    points.map((p) => p[1]!),
    points.map((p) => p[0]!),
  );
  expect(fit.count).toBe(36);
  expect(fit.slope).toBeCloseTo(1.00211681802045, 12);
  expect(fit.intercept).toBeCloseTo(-0.262323073774029, 10);
  expect(fit.residualDeviation).toBeCloseTo(0.884796396144373, 10);
});
