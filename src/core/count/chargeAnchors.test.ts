import { agm, charge, lithium, stage } from '../../../tests/support/drawnCharges';
import type { SourceCharging, Stage } from '../charge/types';
import { HOUR } from '../quantity/span';
import { chargeAnchors } from './chargeAnchors';

describe('full charges', () => {
  const absorbed = (from: number, to: number, part: Partial<Stage> = {}): Stage =>
    stage({
      stage: 'absorption',
      from: from * HOUR,
      to: to * HOUR,
      volts: 14.4,
      batteryVolts: NaN,
      celsius: 25,
      endAmps: 1,
      settledAmps: 1,
      endedBy: 'tail',
      endAmpsAreBattery: true,
      blocked: false,
      atTailFrom: (to - 1) * HOUR,
      ...part,
    });
  const float = (from: number, to: number, part: Partial<Stage> = {}) =>
    stage({ stage: 'float', from: from * HOUR, to: to * HOUR, ...part });
  const by = (...stages: Stage[]) =>
    ({
      bank: agm,
      knowsBatteryAmps: true,
      charges: [
        {
          ...charge(stages),
          from: stages[0]!.from,
          to: stages.at(-1)!.to,
          full: true,
          heldFull: [],
          fullOnFloat: [],
        },
      ],
    }) as unknown as SourceCharging;
  const hours = (charging: SourceCharging[]) =>
    chargeAnchors(charging).map(({ kind, at, until }) => [kind, at / HOUR, until / HOUR]);

  test('from the moment at which the battery is at its tail, for as long as it is kept there', () => {
    expect(hours([by(absorbed(2, 6), float(6, 10))])).toEqual([['full', 5, 10]]);
    // Without that moment by the end of absorption.
    expect(hours([by(absorbed(2, 6, { atTailFrom: NaN }))])).toEqual([['full', 6, 6]]);
  });

  test('seen by several sources it is one, the earliest, kept for the longest', () => {
    const sun = by(absorbed(3, 5), float(5, 7));
    const mains = by(absorbed(4, 8), float(8, 12));
    expect(hours([sun, mains])).toEqual([['full', 4, 12]]);
    // The next day it is another.
    expect(hours([sun, by(absorbed(26, 30))])).toHaveLength(2);
  });

  test('under its range lead lacks more at the same tail, and the more the lower; a current far under the tail makes up for it', () => {
    const full = (volts: number, endAmps = 1.8) =>
      chargeAnchors([by(absorbed(2, 6, { volts, endAmps }))])[0]!;
    const lacks = (volts: number, endAmps?: number) => full(14.4).charge - full(volts, endAmps).charge;
    expect(lacks(14.2)).toBe(0);
    // 33 mV a cell is six tenths of what takes the current down to 1/e.
    expect(lacks(14.0)).toBeGreaterThan(0.02);
    expect(lacks(14.0)).toBeLessThan(0.05);
    expect(lacks(13.9)).toBeGreaterThan(lacks(14.0));
    expect(full(14.0).deviation).toBeGreaterThan(full(14.4).deviation);
    expect(lacks(14.0, 0.5)).toBe(0);
    // Whether the small current is the battery's or the voltage's doing stays open, the more the lower the voltage.
    expect(full(14.0, 0.5).deviation).toBeGreaterThan(full(14.4, 0.5).deviation + 0.02);
    expect(full(13.9, 0.5).deviation).toBeGreaterThan(full(14.0, 0.5).deviation);
    // What lies between charger and battery costs voltage.
    const [behind] = chargeAnchors([by(absorbed(2, 6, { volts: 14.4, batteryVolts: 14.0, endAmps: 1.8 }))]);
    expect(behind!.charge).toBe(full(14.0).charge);
    // It goes on filling: by the end of the stage.
    expect([full(14.4).at / HOUR, full(14.0).at / HOUR]).toEqual([5, 6]);
  });

  test('above its range what still flows into lead is mostly gas: it lacks less, and how much less is open', () => {
    const partial = (volts: number) => {
      const one = by(absorbed(2, 6, { volts, endAmps: 9, settledAmps: 9, atTailFrom: NaN }));
      one.charges[0]!.full = false;
      return chargeAnchors([one])[0]!;
    };
    expect(partial(14.5).charge).toBeLessThan(0.9);
    // 67 mV a cell over 14.6 V takes nine amperes to less than the tail.
    expect(partial(15.0).charge).toBeGreaterThan(0.94);
    expect(partial(15.0).deviation).toBeGreaterThan(0.05);
  });

  test('a current that no longer falls goes to gas: full by the end of the stage', () => {
    const steady = { endAmps: 3.5, endSourceAmps: 3.5, fallsPerHour: 0.05, atTailFrom: NaN };
    expect(hours([by(absorbed(2, 6, steady), float(6, 8))])).toEqual([['full', 6, 8]]);
  });

  test('by a long float alone, unless it only fed the loads', () => {
    const above = { endAmps: 4, settledAmps: 4, fallsPerHour: 1 };
    const kinds = (settledAmps: number) =>
      chargeAnchors([by(absorbed(2, 3, above), float(3, 12, { settledAmps }))]).map(({ kind }) => kind);
    expect(kinds(0.1)).toEqual(['absorption', 'full']);
    expect(kinds(-3)).toEqual(['absorption']);
  });

  test('not by a short float at a small current that has not put in what absorption left missing', () => {
    const above = { endAmps: 4, settledAmps: 4, fallsPerHour: 1 };
    const kinds = (hours: number, ampHours: number) =>
      chargeAnchors([by(absorbed(2, 3, above), float(3, 3 + hours, { settledAmps: 0.2, ampHours }))]).map(
        ({ kind }) => kind,
      );
    // Two amperes over its tail lead lacks some three ampere-hours of its hundred.
    expect(kinds(5, 0.9)).toEqual(['absorption']);
    expect(kinds(5, 2.5)).toEqual(['absorption', 'full']);
    expect(kinds(10, 0.9)).toEqual(['absorption', 'full']);
  });

  test('by each long float of a charger that hardly ever goes off, not by the last alone', () => {
    const one = by(absorbed(0, 3, { endAmps: 4, settledAmps: 4, atTailFrom: NaN, fallsPerHour: 1 }));
    one.charges[0]!.fullOnFloat = [float(3, 13), float(14, 37), float(38, 61)];
    expect(hours([one]).slice(1)).toEqual([
      ['full', 12, 13],
      ['full', 36, 37],
      ['full', 60, 61],
    ]);
    // What is kept for days is full from the second of them on.
    const days = by(float(0, 100));
    days.charges[0]!.fullOnFloat = [float(0, 100)];
    expect(hours([days])).toEqual([['full', 24, 100]]);
    // Where an absorption says so already, what it keeps full says nothing more.
    const full = by(absorbed(2, 6), float(6, 16));
    full.charges[0]!.fullOnFloat = [float(6, 16)];
    expect(hours([full])).toEqual([['full', 5, 16]]);
  });

  test('what lithium lacks by its current is more open than with lead: it goes by its resistance too', () => {
    const partial = (bank: typeof agm | typeof lithium) => {
      const one = by(absorbed(2, 6, { endAmps: 20, settledAmps: 20, atTailFrom: NaN }));
      one.charges[0]!.full = false;
      return chargeAnchors([{ ...one, bank }])[0]!;
    };
    const [lead, lithiumOne] = [partial(agm), partial(lithium)];
    expect(lithiumOne.charge).toBeGreaterThan(lead.charge);
    expect(lithiumOne.deviation / lithiumOne.lacks!).toBeGreaterThan(0.6);
    expect(lead.deviation / lead.lacks!).toBeLessThan(0.4);
  });

  test('lithium at its tail under its range is nearly full, unless it stands where a part may be gone; lead is not', () => {
    const low = (bank: typeof agm | typeof lithium, volts: number, endAmps = 1) => {
      const one = by(absorbed(2, 6, { volts, endAmps, settledAmps: endAmps, atTailFrom: NaN }));
      one.charges[0]!.full = false;
      return chargeAnchors([{ ...one, bank }]).map(({ kind, charge: held }) => [kind, held]);
    };
    expect(low(lithium, 13.45)).toEqual([['absorption', 0.965]]);
    expect(low(lithium, 13.45, 20)).toEqual([]);
    expect(low(lithium, 13.35)).toEqual([]);
    expect(low(agm, 13.45)).toEqual([]);
  });

  test('while others held the voltage', () => {
    const one = by(float(1, 9));
    one.charges[0]!.heldFull = [{ from: 3 * HOUR, to: 6 * HOUR }];
    expect(hours([one])).toEqual([['full', 3, 6]]);
  });
});
