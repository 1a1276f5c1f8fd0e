/** What cold, loads, rest days and small chargers do to a verdict: charges set down by hand. */

import type { SourceCharging, Stage } from '../charge/types';
import { HOUR } from '../quantity/span';
import type { Source } from '../system/schema';
import type { Judged } from './cause';
import { chargeVoltageHigh } from './charge-voltage-high';
import { chargeVoltageLow } from './charge-voltage-low';
import { coldChargeBlock } from './cold-charge-block';
import { runnerStopsCharge } from './runner-stops-charge';
import { sourceTooSmall } from './source-too-small';
import { neverGave } from '../charge/coldIdle';
import {
  agm,
  charge,
  held,
  lithium,
  profile,
  seen,
  source,
  stage,
  sumOf,
} from '../../../tests/support/drawnCharges';
import { drawnView } from '../../../tests/support/drawnView';

test('lithium that goes to float from far below its range, on every charge, is stopped low; a charge that went higher clears it', () => {
  const at = (top: number) =>
    charge([
      stage({ stage: 'bulk', topVolts: top, volts: 13.3, heldMs: 4 * HOUR }),
      stage({ stage: 'float', topVolts: 13.4, volts: 13.4 }),
    ]);
  const low = (tops: number[]) =>
    chargeVoltageLow.weigh!(
      seen(
        [
          {
            source,
            bank: lithium,
            charges: tops.map((top, day) => ({
              ...at(top),
              from: day * 24 * HOUR,
              to: (day * 24 + 8) * HOUR,
            })),
            slope: null,
          } as unknown as SourceCharging,
        ],
        lithium,
      ),
    );
  expect(low([13.7, 13.72, 13.71, 13.7])[0]!.decibans).toBeGreaterThan(10);
  expect(low([13.7, 13.72, 14.4, 13.7])).toEqual([]);
  expect(low([14.4, 14.41, 14.4, 14.4])[0]!.decibans).toBeLessThan(0);
});

test('lithium whose charger stops by itself, its current fallen, is stopped low without a float; what the sun leaves in the evening is no stop', () => {
  const at = (top: number, day: number) => ({
    ...charge([stage({ stage: 'bulk', topVolts: top, volts: 13.3, endSourceAmps: 3 })]),
    from: day * 24 * HOUR,
    to: (day * 24 + 3) * HOUR,
  });
  const low = (kind: Source['kind'], brief = 13.4) =>
    chargeVoltageLow.weigh!(
      seen(
        [
          {
            source: { ...source, kind },
            bank: lithium,
            // A short charge later in the day comes less high, and does not count.
            charges: [0, 1, 2, 3].flatMap((day) => [
              at(13.6, day),
              { ...at(brief, day), to: (day * 24 + 0.3) * HOUR },
            ]),
            bulkAmps: 28,
            slope: null,
          } as unknown as SourceCharging,
        ],
        lithium,
      ),
    );
  expect(sumOf(low('mains'))).toBeGreaterThan(12);
  expect(low('solar')).toEqual([]);
  // Twenty minutes that go to 14.4 V, and then a float: it is not stopped low.
  expect(low('mains', 14.4)).toEqual([]);
});

describe('a source that gave nothing', () => {
  const idle = (
    warmestC: number,
    chargeAboveC: number | undefined,
    middleC = warmestC - 1,
    mostlyC = middleC + 2,
  ) =>
    coldChargeBlock.weigh!(
      seen(
        [
          {
            ...held(13, 13, 2),
            charges: [],
            coldIdle: null,
            coldEdges: null,
            neverGave: { warmestC, middleC, mostlyC, days: 9 },
            source: {
              ...source,
              profile: { ...profile, ...(chargeAboveC === undefined ? {} : { chargeAboveC }) },
            },
            setpoints: { coldest: warmestC - 8 },
          } as unknown as SourceCharging,
        ],
        { ...agm, chemistry: 'lfp' },
      ),
    ).reduce((total, one) => total + one.decibans, 0);
  test('all along, to a battery never as warm as it asks for, was stopped by the cold', () => {
    expect(idle(3, 5)).toBeGreaterThan(10);
    expect(idle(3, 0)).toBeLessThanOrEqual(0);
    // What it asks for is not known: many refuse lithium so cold.
    expect(idle(3, undefined)).toBeGreaterThan(5);
    expect(idle(9, undefined)).toBeLessThanOrEqual(0);
  });
  test('all along, to a battery that was too cold half of the time, may have been stopped by the cold', () => {
    expect(idle(9, 5, 4)).toBeGreaterThan(5);
    expect(idle(9, 5, 4)).toBeLessThan(idle(3, 5));
    expect(idle(9, 5, 6)).toBeLessThanOrEqual(0);
    // Two thirds of the time say more than half of it, and less than all of it.
    expect(idle(9, 5, 2, 4)).toBeGreaterThan(idle(9, 5, 2, 6));
    expect(idle(9, 5, 2, 4)).toBeLessThan(idle(3, 5));
    // The only charger, known to refuse so cold, has little else to have kept it; of another nobody knows.
    expect(idle(9, 5, 4)).toBeGreaterThan(13);
    expect(idle(9, undefined, -2, 6)).toBeLessThan(10);
  });
  test('is told from its log: nothing given, and the warmest that the battery was', () => {
    const view = drawnView({
      minutes: 4 * 1440,
      volts: () => 13,
      amps: () => 0,
      celsius: (m) => (m % 1440) / 720,
    });
    expect(neverGave(view, 0.3)).toEqual({
      warmestC: expect.closeTo(2, 1),
      middleC: expect.closeTo(1, 1),
      mostlyC: expect.closeTo(1.33, 1),
      days: 4,
    });
    expect(neverGave({ ...view, amps: view.amps.map(() => 5) }, 0.3)).toBeNull();
    expect(neverGave({ ...view, celsius: null }, 0.3)).toBeNull();
  });
});

test('where it began at one temperature every day that says more than the few hours in which it would have given', () => {
  const coldIdle = (hours: number) => ({ belowC: 5, hours, gaveBelow: 0, gaveAbove: 0.7 });
  const coldEdges = { atC: 5, begins: 24, ends: 0, hours: 330, byClock: false };
  const weigh = (idle: ReturnType<typeof coldIdle> | null, edges: typeof coldEdges | null) =>
    coldChargeBlock.weigh!(
      seen(
        [
          { ...held(13, 13, 2), charges: [], coldIdle: idle, coldEdges: edges, neverGave: null },
        ] as unknown as SourceCharging[],
        { ...agm, chemistry: 'lfp' },
      ),
    );
  expect(weigh(coldIdle(4.5), coldEdges)).toEqual(weigh(null, coldEdges));
  expect(weigh(coldIdle(30), coldEdges)).toEqual(weigh(coldIdle(30), null));
});

test('an engine that is run every third day is judged by the days on which it runs; the sun by every day', () => {
  const day = (reached: string, i: number) => ({
    from: i * 24 * HOUR,
    to: (i + 1) * 24 * HOUR,
    date: `2026-06-${10 + i}`,
    hours: 24,
    reached,
    ampHoursIn: reached === 'nothing' ? 0 : 33,
    ampHoursOut: 10,
  });
  const days = Array.from({ length: 9 }, (_, i) => day(i % 3 === 0 ? 'absorption' : 'nothing', i));
  const judged = (kind: Source['kind'], most = 9) =>
    sourceTooSmall.weigh!({
      ...seen([held(14.4, 13.7, 20, { source: { ...source, kind } })]),
      days: days.slice(0, most),
    } as unknown as Judged)[0]!;
  expect(judged('generator').text).toBe('Charging got past bulk on all 3 days.');
  expect(judged('solar').text).toBe('Charging did not get past bulk on 6 of 9 days.');
  // One run shows nothing.
  expect(judged('generator', 3)).toBeUndefined();
});

describe('lithium set far too high, whose charges break off at the top of its range', () => {
  const setTo = (absorptionV: number) => ({ ...source, profile: { ...profile, absorptionV } });
  const brokenOff = (by: Source | null, tops: number[]) =>
    seen(
      [
        {
          source: by,
          bank: lithium,
          charges: tops.map((topVolts) =>
            charge([stage({ stage: 'bulk', topVolts, volts: 13.3, celsius: NaN })]),
          ),
          slope: null,
        } as unknown as SourceCharging,
      ],
      lithium,
    );
  const high = (absorptionV: number, tops: number[]) =>
    chargeVoltageHigh.weigh!(brokenOff(setTo(absorptionV), tops));
  test('was stopped by its BMS', () => {
    const [stopped] = high(15.2, [14.61, 14.6, 13.4, 14.58, 14.62]);
    expect(stopped!.text).toMatch(/^Charger broke off at 14\.61 V in all 4 charges\. .*set to 15\.20 V/);
    expect(stopped!.decibans).toBeGreaterThan(8);
  });
  test('so it was where a slow log shows it somewhere in the range', () => {
    expect(sumOf(high(15.2, [14.3, 14.5, 14.4, 14.3]))).toBeGreaterThan(8);
  });
  test('so it was where the battery alone is logged and each charger is set too high, not where one is not', () => {
    const byBattery = (...set: number[]) => {
      const judged = brokenOff(null, [14.6, 14.6, 14.58, 14.62]);
      return sumOf(
        chargeVoltageHigh.weigh!({ ...judged, system: { ...judged.system, sources: set.map(setTo) } }),
      );
    };
    expect(byBattery(15.2, 15.0)).toBeGreaterThan(8);
    expect(byBattery(15.2, 14.6)).toBeLessThan(0);
  });
  test('and one that stops at its own setting, under the range, or too seldom, was not', () => {
    expect(sumOf(high(14.6, [14.61, 14.6, 14.58, 14.62]))).toBeLessThan(0);
    // Cells that are not alike stop a charge under the range.
    expect(sumOf(high(15.2, [14.1, 14.1, 14.1, 14.1]))).toBeLessThan(0);
    expect(sumOf(high(15.2, [14.6, 14.6, 14.1, 14.1]))).toBeLessThan(0);
  });
});

describe('a voltage that is set too low, with charges too short to show a plateau', () => {
  const set = (absorptionV: number) => ({ ...source, profile: { ...profile, absorptionV } });
  const low = (absorptionV: number, tops: number[]) =>
    chargeVoltageLow.weigh!(
      seen(
        [
          {
            source: set(absorptionV),
            bank: lithium,
            charges: tops.map((topVolts) => charge([stage({ stage: 'bulk', topVolts, volts: 13.3 })])),
            slope: null,
          } as unknown as SourceCharging,
        ],
        lithium,
      ),
    );
  test('is seen where charges come up to it and none goes higher', () => {
    const [top] = low(13.8, [13.75, 13.74, 13.2, 13.76]);
    expect(top).toMatchObject({ group: 'top' });
    expect(top!.decibans).toBeGreaterThan(5);
    expect(top!.text).toMatch(/^3 charges came up to 13\.75 V/);
  });
  test('compensation may carry a charge above it in the cold', () => {
    const lead = (compensationMvPerCellPerC: number) =>
      chargeVoltageLow.weigh!(
        seen([
          {
            source: { ...source, profile: { absorptionV: 13.8, compensationMvPerCellPerC } },
            bank: agm,
            charges: [13.8, 13.95, 13.9].map((topVolts) =>
              charge([stage({ stage: 'bulk', topVolts, volts: 13.3 })]),
            ),
            slope: null,
          } as unknown as SourceCharging,
        ]),
      );
    expect(sumOf(lead(-4))).toBeGreaterThan(5);
    expect(lead(0)).toEqual([]);
  });
  test('is not where one went higher, where too few came there, and where the setting is right', () => {
    expect(low(13.8, [13.75, 13.74, 14.1, 13.76])).toEqual([]);
    expect(low(13.8, [13.75, 13.4, 13.2, 13.76])).toEqual([]);
    expect(low(14.4, [14.38, 14.37, 14.39, 14.38])).toEqual([]);
  });
});

test('one stop for one high cell, with the pack far from full, is enough; high up it is not', () => {
  const stop = (meanV: number) => ({
    from: 0,
    to: HOUR,
    highestV: 3.68,
    highestCell: '2',
    meanV,
  });
  const sum = (meanV: number, charges = 1) =>
    sumOf(
      runnerStopsCharge.weigh!({
        refusals: [stop(meanV)],
        system: {},
        bank: lithium,
        charging: [
          {
            charges: Array.from({ length: charges }, (_, k) => ({ from: 24 * k * HOUR, to: 24 * k * HOUR })),
          },
        ],
      } as unknown as Judged),
    );
  expect(sum(3.43)).toBeGreaterThanOrEqual(sum(3.56) + 4);
  expect(sum(3.65)).toBeLessThan(0);
  // On one day of six or of twenty it keeps no battery from being filled.
  expect(sum(3.43, 6)).toBeLessThanOrEqual(sum(3.43) - 6);
  expect(sum(3.43, 20)).toBeLessThanOrEqual(sum(3.43) - 6);
});

test('what stands still far under the voltage that bulk takes the battery to is no setting, neither too low nor right', () => {
  const withBulk = (top: number) => {
    const one = held(13.6, 13.2, 25);
    const bulk = stage({ stage: 'bulk', volts: 13, volts25: 13, topVolts: top });
    const at25 = (each: Stage) => ({ ...each, volts25: each.volts });
    return {
      ...one,
      charges: one.charges.map((each) => ({ ...each, stages: [bulk, ...each.stages.map(at25)] })),
    };
  };
  const low = (top: number) => sumOf(chargeVoltageLow.weigh!(seen([withBulk(top)])), 'plateau');
  const high = (top: number) => sumOf(chargeVoltageHigh.weigh!(seen([withBulk(top)])), 'plateau');
  expect(low(13.65)).toBeGreaterThan(12);
  expect(high(13.65)).toBeLessThan(-5);
  expect([low(14.4), high(14.4)]).toEqual([0, 0]);
  // A lead battery that stands at 13.2 V is held by no setting.
  const stands = chargeVoltageLow.weigh!(seen([held(13.2, 13.1, 25)]));
  expect(sumOf(stands, 'plateau')).toBeLessThan(6);
});
