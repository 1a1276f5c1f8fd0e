/** Checks against published sources, each named beside its check. "From memory" says that the value was not read off the source. */

import { fitLine } from '@/core/quantity/numbers';
import { dischargeHours, usableCapacity } from '@/core/system/peukert';
import { leadRestPercent } from '@/core/system/restVoltage';
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
});

test('rest voltage of 12 V lead-acid (Battery Council International, from memory)', () => {
  for (const [volts, percent] of [
    [12.65, 100],
    [12.45, 75],
    [12.24, 50],
    [12.06, 25],
    [11.89, 0],
  ] as const)
    expect(leadRestPercent(volts)).toBeCloseTo(percent, 6);
  expect(leadRestPercent(12.345)).toBeCloseTo(62.5, 6);
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
