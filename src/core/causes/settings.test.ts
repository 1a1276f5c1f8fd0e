/** What settings tell of a temperature that nobody logged, and what is judged by them: charges set down by hand. */

import { agm, held, lithium, profile, seen, source, sumOf } from '../../../tests/support/drawnCharges';
import type { Cause } from './cause';
import { capacityWrong } from './capacity-wrong';
import { celsiusBySetting, celsiusOfLowSetting } from '../charge/bySetting';
import { setAlike } from '../charge/setAlike';
import { chargeVoltageHigh } from './charge-voltage-high';
import { chargeVoltageLow } from './charge-voltage-low';
import { falseSync } from './false-sync';
import { floatUnsuited } from './float-unsuited';
import { peukertWrong } from './peukert-wrong';

const place = { timeZone: 'Europe/Rome' };

// Six cells at −4 mV per °C and cell: 0.24 V lower at 35 °C, 0.36 V higher at 10 °C.
const set = (
  absorptionV: number | undefined,
  floatV: number | undefined,
  celsius: number,
  logged = false,
) => {
  const shift = -0.024 * (celsius - 25);
  const one = held((absorptionV ?? 14.4) + shift, (floatV ?? 13.7) + shift, logged ? celsius : NaN, {
    source: { ...source, profile: { ...profile, absorptionV, floatV } },
    slope: null,
    knowsOwnAmps: true,
  });
  const impliedC = celsiusOfLowSetting(one, place) ?? undefined;
  for (const charge of one.charges)
    for (const stage of charge.stages) Object.assign(stage, { usualSourceAmps: 1, impliedC });
  return one;
};

test('a charger that holds what it is set to tells the temperature that it goes by', () => {
  expect(celsiusBySetting(set(14.4, 13.7, 10), 'float')).toBeCloseTo(10, 6);
  expect(celsiusBySetting(set(14.4, 13.7, 10), 'absorption')).toBeCloseTo(10, 6);
  // No battery is so warm; without a setting nothing is told.
  expect(celsiusBySetting(set(14.4, 13.7, 80), 'float')).toBeNull();
  expect(celsiusBySetting(set(14.4, undefined, 10), 'float')).toBeNull();
});

test('chargers that are all set alike tell it too, though only the battery was logged; ones that differ do not', () => {
  const two = (other: object) => {
    const { profile: own } = { profile: { ...profile, absorptionV: 13.7, floatV: 13.5 } };
    return {
      ...set(13.7, 13.5, 12),
      source: null,
      setAlike: setAlike([{ profile: own }, { profile: { ...own, ...other } }]),
    };
  };
  expect(celsiusOfLowSetting(two({}), place)).toBeCloseTo(12, 6);
  expect(sumOf(chargeVoltageLow.weigh!(seen([two({})])))).toBeGreaterThan(15);
  expect(celsiusOfLowSetting(two({ absorptionV: 14.4 }), place)).toBeNull();
  expect(setAlike([{ profile, across: 'lower' }]).absorptionV).toBeUndefined();
});

describe('an absorption that is set too low, with no temperature logged', () => {
  test('tells the battery’s temperature, where the season can have it', () => {
    expect(celsiusOfLowSetting(set(13.7, undefined, 10), place)).toBeCloseTo(10, 6);
    expect(celsiusOfLowSetting(set(14.4, undefined, 10), place)).toBeNull();
    expect(celsiusOfLowSetting(set(13.7, undefined, 10, true), place)).toBeNull();
    expect(celsiusOfLowSetting(set(13.7, undefined, -5), place)).toBeNull();
    expect(celsiusOfLowSetting(set(13.7, undefined, 10), { ...place, site: { coldestC: 18 } })).toBeNull();
  });
  test('is found, though the compensation lifts it to where it would be right on a warm day', () => {
    const low = chargeVoltageLow.weigh!(seen([set(13.7, undefined, 10)]));
    expect(sumOf(low)).toBeGreaterThan(12);
    expect(low[0]!.text).toContain('as it does at 10 °C by its setting, where the battery asks for 14.');
    expect(sumOf(chargeVoltageLow.weigh!(seen([set(14.4, undefined, 33)])))).toBeLessThan(0);
  });
});

test('an absorption set too low that lasts minutes is found by its tops, at the temperature that the float shows', () => {
  // Set to 13.8 V and 13.6 V, at −4 mV per °C and cell: at 8 °C 0.41 V more of each.
  const brief = (top: number) => {
    const one = set(13.8, 13.6, 8);
    for (const charge of one.charges)
      charge.stages = charge.stages
        .filter(({ stage }) => stage === 'float')
        .map((stage) => ({ ...stage, topVolts: top }));
    return chargeVoltageLow.weigh!(seen([one]));
  };
  const [found] = brief(14.21);
  expect(found!.decibans).toBeGreaterThan(5);
  expect(found!.text).toContain('at 8 °C, the temperature that its float shows');
  // One that went up to what the battery asks for at 8 °C is not set so low.
  expect(brief(14.8)).toEqual([]);
});

describe('a float that is set too low, with no temperature logged', () => {
  test('is found by its setting, though the weather could excuse what it held', () => {
    const evidence = floatUnsuited.weigh!(seen([set(14.4, 13.2, 10)]));
    expect(sumOf(evidence)).toBeGreaterThan(10);
    expect(evidence[0]!.text).toContain('at 10 °C, going by its settings');
  });
  test('and one that is set too high is, with no compensation told: where the setting is out, the weather is no excuse', () => {
    const high = (floatV: number) => {
      const one = set(14.4, 14.1, 25);
      one.source!.profile = { floatV };
      return sumOf(floatUnsuited.weigh!(seen([one])));
    };
    expect(high(14.1)).toBeGreaterThan(12);
    expect(high(13.7)).toBeLessThanOrEqual(3);
  });
  test('is cleared where the setting is right', () => {
    expect(sumOf(floatUnsuited.weigh!(seen([set(14.4, 13.7, 10)])))).toBeLessThan(-5);
  });
  test('neither way where absorption tells another temperature, and what it held may be the weather', () => {
    const one = set(14.4, 13.2, 10);
    one.source!.profile.absorptionV = 14.9;
    expect(Math.abs(sumOf(floatUnsuited.weigh!(seen([one]))))).toBeLessThanOrEqual(3);
  });
});

describe('an absorption that is set too high', () => {
  const high = (celsius: number, logged: boolean) => seen([set(14.9, 13.7, celsius, logged)]);
  test('is judged at 25 °C where it is held as it is set, in the cold too', () => {
    for (const logged of [true, false])
      expect(sumOf(chargeVoltageHigh.weigh!(high(8, logged)))).toBeGreaterThan(12);
  });
  test('is where only the battery was logged and no charger is set within its range: the weather is no excuse', () => {
    // Held at 15.1 V; in the cold that would be right for a charger that is set right.
    const battery = (...settings: (number | undefined)[]) => {
      const judged = seen([{ ...set(15.1, 13.7, 25), source: null }]);
      const sources = settings.map((absorptionV) => ({ ...source, profile: { absorptionV } }));
      return sumOf(chargeVoltageHigh.weigh!({ ...judged, system: { ...judged.system, sources } }), 'plateau');
    };
    expect(battery(15, 15.3)).toBeGreaterThan(12);
    expect(battery(15, 14.4)).toBeLessThan(0);
    expect(battery(15, undefined)).toBeLessThan(0);
  });
  test('and one that is set right is not', () => {
    for (const logged of [true, false]) {
      const right = seen([set(14.4, 13.7, 8, logged)]);
      expect(sumOf(chargeVoltageHigh.weigh!(right))).toBeLessThan(-5);
      expect(sumOf(chargeVoltageLow.weigh!(right))).toBeLessThan(-5);
    }
  });
});

test('lithium that goes far above its range without a plateau, on every charge, is found; one charger is enough', () => {
  const lithium = { ...agm, chemistry: 'lfp' as const, cellsInSeries: 4 };
  const top = (volts: number) =>
    held(14.4, 13.7, 20, {
      bank: lithium,
      charges: Array.from({ length: 5 }, () => ({
        ...held(14.4, 13.7, 20).charges[0]!,
        stages: [{ stage: 'bulk', topVolts: volts, celsius: NaN } as never],
      })),
    });
  const sum = (...tops: number[]) => sumOf(chargeVoltageHigh.weigh!(seen(tops.map(top), lithium)));
  expect(sum(15.2)).toBeGreaterThan(16);
  expect(sum(15.2, 14.0)).toBeGreaterThan(16);
  expect(sum(14.3, 14.0)).toBeLessThan(-10);
});

test('stops of the BMS with all cells high, just under its limit: the charger’s that is set above the range, and nobody’s else', () => {
  const lithium = {
    ...agm,
    chemistry: 'lfp' as const,
    cellsInSeries: 4,
    chargeVolts: { min: 14.2, max: 14.6 },
  };
  const stops = (meanV: number) =>
    Array.from({ length: 6 }, (_, k) => ({ from: k, to: k + 1, meanV, highestV: meanV + 0.02 }));
  const sum = (absorptionV: number, meanV: number) => {
    const one = { ...seen([], lithium), refusals: stops(meanV) };
    one.system.sources = [{ ...source, profile: { ...profile, absorptionV } }];
    return sumOf(chargeVoltageHigh.weigh!(one as never), 'bms');
  };
  expect(sum(15.2, 3.63)).toBeGreaterThan(9);
  expect(sum(14.4, 3.63)).toBe(0);
  // A row minutes later shows less, yet within the range.
  expect(sum(15.2, 3.57)).toBeGreaterThan(9);
  expect(sum(15.2, 3.52)).toBe(0);
});

test('a stop of the supply before any absorption is no float; hours of it are', () => {
  const brief = (minutes: number, ...before: ('absorption' | 'bulk')[]) => {
    const one = set(undefined, 13.7, 25, true);
    for (const charge of one.charges)
      charge.stages = [
        ...before.map((stage) => ({ ...charge.stages[0]!, stage })),
        { ...charge.stages[1]!, volts: 13.05, heldMs: minutes * 60_000 },
      ];
    return sumOf(floatUnsuited.weigh!(seen([one])));
  };
  expect(brief(60, 'bulk')).toBe(0);
  expect(brief(60, 'absorption')).toBeGreaterThan(10);
  expect(brief(240, 'bulk')).toBeGreaterThan(10);
});

test('lithium that is let go at the end of a charge comes down by itself: no float, unless its charger carries the loads', () => {
  const sum = (gives: number, taken: number) => {
    const one = held(14.4, 14.1, 25, { bank: lithium as never, slope: null, knowsOwnAmps: true });
    for (const charge of one.charges)
      charge.stages = charge.stages.map((stage) => ({
        ...stage,
        usualSourceAmps: gives,
        settledAmps: taken,
        endAmpsAreBattery: true,
      }));
    return sumOf(floatUnsuited.weigh!(seen([one], lithium)));
  };
  expect(sum(0.2, -0.6)).toBe(0);
  expect(sum(0.6, -0.05)).toBeGreaterThan(10);
  // A meter whose zero is off, beside a charger that carries more than that.
  expect(sum(3, -0.4)).toBeGreaterThan(10);
});

test('lead that is carried far above its range by a charger that never comes to its voltage is found; one that stays under it says nothing', () => {
  const top = (volts: number, celsius: number) =>
    held(14.4, 13.7, 20, {
      charges: Array.from({ length: 5 }, () => ({
        ...held(14.4, 13.7, 20).charges[0]!,
        stages: [{ stage: 'bulk', topVolts: volts, celsius } as never],
      })),
    });
  const sum = (volts: number, celsius: number) =>
    sumOf(chargeVoltageHigh.weigh!(seen([top(volts, celsius)])));
  expect(sum(15.4, 25)).toBeGreaterThan(16);
  expect(sum(15.4, NaN)).toBeGreaterThan(10);
  // Cold, the battery asks for as much.
  expect(sum(15.0, 5)).toBe(0);
  expect(sum(14.2, 25)).toBe(0);
});

test('a capacity that is plainly wrong on paper stands though a shallow use hardly shows it', () => {
  const drifts = (capacityAh: number, points: number) => {
    const interval = { from: 0, to: 1, drift: 4, deviation: 0.5, parts: { capacity: points } };
    const counting = {
      behaves: null,
      capacityAh: { value: 100, deviation: 10, before: { value: 100, deviation: 10 } },
      settings: { capacityAh },
      assumed: [],
      intervals: [interval, interval],
    };
    const judged = { ...seen([]), counting } as unknown as Parameters<
      NonNullable<typeof capacityWrong.weigh>
    >[0];
    return sumOf(capacityWrong.weigh!(judged));
  };
  expect(drifts(200, 1.2)).toBe(0);
  // One that is a little off, or makes much, is judged by what it makes.
  expect(drifts(115, 1.2)).toBeLessThan(0);
  expect(drifts(200, 9)).toBeGreaterThan(3);
});

test('an exponent that makes next to nothing is idle; without a stretch between syncs nothing is said of what it makes', () => {
  const texts = (...parts: number[]) => {
    const counting = {
      behaves: null,
      settings: { peukert: 1.5 },
      assumed: [],
      intervals: parts.map((peukert) => ({ from: 0, to: 1, drift: 1, deviation: 0.5, parts: { peukert } })),
    };
    const judged = { ...seen([]), counting } as unknown as Parameters<
      NonNullable<typeof peukertWrong.weigh>
    >[0];
    return peukertWrong.weigh!(judged).map((one) => one.text);
  };
  expect(texts(0.4, 0.6)).toEqual([expect.stringContaining('Hardly anything is drawn faster')]);
  expect(texts()).toEqual([]);
});

test('syncs that fell just under the line take nothing from those that fell far under it', () => {
  const weighed = (...references: number[]) => {
    const syncs = references.map((reference) => ({
      at: 0,
      afterGap: false,
      reference,
      deviation: 2.5,
      judged: reference < 90 ? 'false' : 'unsure',
      collapsed: true,
    }));
    const judged = { ...seen([]), counting: { syncs, replayed: false } };
    return sumOf(
      falseSync.weigh!(judged as unknown as Parameters<NonNullable<typeof falseSync.weigh>>[0]),
      'syncs',
    );
  };
  expect(weighed(76, 84, 89.8, 89.9, 89.9, 89.9)).toBeGreaterThanOrEqual(weighed(76, 84));
  expect(weighed(76, 84)).toBeGreaterThan(8);
  expect(weighed(89.8, 89.9, 89.9, 89.9)).toBeLessThan(4);
});

test('what lithium comes down to while its BMS lets nothing in is no charge voltage, neither too low nor low enough; what stands above its range is', () => {
  const at = (cause: Cause, blocked: boolean, volts = 13.65) => {
    const one = held(volts, 13.5, 25, {
      bank: lithium,
      source: { ...source, profile: { absorptionV: 14.4 } },
    });
    for (const { stages } of one.charges) for (const stage of stages) Object.assign(stage, { blocked });
    return sumOf(cause.weigh!(seen([one], lithium)), 'plateau');
  };
  expect(at(chargeVoltageLow, false)).toBeGreaterThan(8);
  expect(at(chargeVoltageLow, true)).toBe(0);
  expect(at(chargeVoltageHigh, false)).toBeLessThan(-8);
  expect(at(chargeVoltageHigh, true)).toBe(0);
  expect(at(chargeVoltageHigh, true, 15.1)).toBeGreaterThan(5);
});

test('syncs that come too soon because the capacity is set far too large are the capacity’s doing, not the tail’s', () => {
  const sync = { at: 0, afterGap: false, reference: 82, deviation: 3, judged: 'false', collapsed: false };
  const weighed = (capacityAh: number, tailPercent = 4, collapsed = false) => {
    const monitor = { method: 'shunt', capacityAh, chargedV: 13.9, tailPercent, detectionMinutes: 3 };
    const judged = {
      ...seen([]),
      system: { ...seen([]).system, monitor },
      counting: { syncs: Array.from({ length: 8 }, () => ({ ...sync, collapsed })), replayed: false },
    } as unknown as Parameters<NonNullable<typeof falseSync.weigh>>[0];
    return sumOf(falseSync.weigh!(judged));
  };
  // The bank has 100 Ah; no charger's settings are known.
  expect(weighed(105)).toBeGreaterThan(10);
  expect(weighed(200)).toBeLessThan(8);
  // A tail that is large by itself, and a supply that failed, are faults of their own.
  expect(weighed(200, 9)).toBe(weighed(105, 9));
  expect(weighed(200, 4, true)).toBe(weighed(105, 4, true));
});

test('syncs that came too soon though the monitor asks for what is usual are no fault of its settings', () => {
  const says = (chargedV: number, tailPercent: number, detectionMinutes: number) =>
    falseSync.described!({
      system: {
        bank: agm,
        sources: [set(14.4, 13.7, 25).source],
        monitor: { method: 'shunt', chargedV, tailPercent, detectionMinutes },
      },
    } as unknown as Parameters<NonNullable<typeof falseSync.described>>[0]);
  expect(sumOf(says(14.2, 4, 3))).toBeLessThan(0);
  for (const [chargedV, tail, minutes] of [
    [13.9, 4, 3],
    [14.2, 6, 3],
    [14.2, 4, 1],
  ] as const)
    expect(says(chargedV, tail, minutes)).toEqual([]);
});
