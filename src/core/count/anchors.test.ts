import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { agm, charge, lithium, stage } from '../../../tests/support/drawnCharges';
import type { SourceCharging, Stage } from '../charge/types';
import { HOUR } from '../quantity/span';
import { chargeAnchors, emptyAnchors, restAnchors, tripAnchors } from './anchors';

const MINUTE = 60_000;

/** A BMS that lets nothing out from the hundredth minute on; a load that stops lets the cells recover. */
function tripped(lowest: number, others: number): Series {
  const time = Float64Array.from({ length: 200 }, (_, i) => i * MINUTE);
  const cell = (volts: number) => Float32Array.from(time, (_, i) => (i < 97 ? 3.2 : i < 100 ? volts : 3.25));
  return {
    device: 'bms',
    time,
    channels: {
      bms_discharge_allowed: Float32Array.from(time, (_, i) => (i < 100 ? 1 : 0)),
      cell_01_voltage: cell(others),
      cell_02_voltage: cell(lowest),
      cell_03_voltage: cell(others),
      cell_04_voltage: cell(others),
    },
  };
}

describe('a low-cell trip of the BMS', () => {
  test('is a true empty where the mean of the cells is near the knee', () => {
    const [one, ...others] = tripAnchors(timelineOf([tripped(2.6, 2.9)]));
    expect(others).toEqual([]);
    expect(one).toMatchObject({ kind: 'empty', at: 100 * MINUTE });
    expect(one!.charge).toBeLessThan(0.06);
  });

  test('says nothing of the battery where the others are well', () => {
    expect(tripAnchors(timelineOf([tripped(2.6, 3.22)]))).toEqual([]);
  });

  test('an overcurrent with good cells is none', () => {
    expect(tripAnchors(timelineOf([tripped(3.1, 3.15)]))).toEqual([]);
  });
});

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
        { ...charge(stages), from: stages[0]!.from, to: stages.at(-1)!.to, full: true, heldFull: [] },
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

  test('while others held the voltage', () => {
    const one = by(float(1, 9));
    one.charges[0]!.heldFull = [{ from: 3 * HOUR, to: 6 * HOUR }];
    expect(hours([one])).toEqual([['full', 3, 6]]);
  });
});

describe('an empty lead battery', () => {
  const grid = { from: 0, step: 10 * MINUTE, count: 6 * 24, cuts: [] };
  const even = (value: number) => new Float32Array(grid.count).fill(value);

  test('has next to nothing left at its knee, and is not told by how far it hangs below it', () => {
    const [one] = emptyAnchors(agm, grid, even(-3), even(11.5));
    expect(one!.charge).toBeLessThan(0.05);
    // 11.4 V at 2 A rests at about 11.5 V: under the end of the table.
    for (const anchor of restAnchors(agm, grid, even(-2), even(11.4)))
      expect([anchor.kind, anchor.charge < 0.03]).toEqual(['empty', true]);
  });

  test('a battery that is half full rests as one', () => {
    const [one] = restAnchors(agm, grid, even(-1), even(12.2));
    expect(one!.kind).toBe('rest');
    expect(one!.charge).toBeGreaterThan(0.3);
    expect(emptyAnchors(agm, grid, even(-1), even(12.2))).toEqual([]);
  });

  test('lithium keeps its own', () => {
    expect(emptyAnchors(lithium, grid, even(-5), even(11.2))[0]!.charge).toBe(0.04);
  });
});

describe('rests that say something new', () => {
  const cells = (of: (minute: number) => number) => Float32Array.from({ length: 1440 }, (_, i) => of(i));
  const grid = { from: 0, step: MINUTE, count: 1440, cuts: [] };
  test('a rest within hours of another speaks where the charge has changed since', () => {
    const at = (low: number) =>
      restAnchors(
        agm,
        grid,
        cells((m) => (m >= 400 && m < 440 ? -20 : -0.5)),
        cells((m) => (m < 400 ? 12.6 : m < 440 ? 11.8 : low)),
      ).filter((one) => one.at / HOUR < 10);
    expect(at(12.1)).toHaveLength(2);
    expect(at(12.58)).toHaveLength(1);
  });
  test('lithium has come back twenty minutes after a heavy load, lead after an hour', () => {
    const first = (bank: typeof agm | typeof lithium, volts: number) =>
      restAnchors(
        bank,
        grid,
        cells((m) => (m < 400 ? -20 : 0)),
        cells((m) => (m < 400 ? volts - 0.4 : volts)),
      )[0]!.at / MINUTE;
    expect(first(lithium, 12.4) - 399).toBe(20);
    expect(first(agm, 12.2) - 399).toBe(60);
  });
  test('a source that takes the loads over lifts the voltage before its charge shows: that is no rest', () => {
    const at = (dawn: number) =>
      restAnchors(
        agm,
        grid,
        // Two thousandths of the capacity are less than a charge.
        cells((m) => (m < 400 ? -2 : dawn)),
        cells((m) => (m < 400 ? 12.3 : m < 420 ? 12.9 : 14.2)),
      ).map((one) => one.at / MINUTE >= 400);
    expect(at(0.2)).not.toContain(true);
    expect(at(-0.2)).toContain(true);
  });
  test('lead that has come back to less than any rest is empty, soon after its load', () => {
    const [one] = restAnchors(
      agm,
      grid,
      cells((m) => (m < 400 ? -20 : 0)),
      cells((m) => (m < 400 ? 11.0 : 11.6)),
    );
    expect([one!.kind, one!.at / MINUTE - 399]).toEqual(['empty', 20]);
  });
  test('what takes current and stands under the end of the table even so is empty; above it that says nothing', () => {
    const found = (volts: number) =>
      restAnchors(
        agm,
        grid,
        cells((m) => (m < 400 ? -20 : 1.5)),
        cells((m) => (m < 400 ? 11.0 : volts)),
      ).map(({ kind, at }) => [kind, at / MINUTE - 399]);
    expect(found(11.8)[0]).toEqual(['empty', 60]);
    expect(found(12.3)).toEqual([]);
  });
  test('the further lead stands under the end of its table, the less it matters how far that is off', () => {
    const byTable = (volts: number) => {
      const [one] = restAnchors(
        { ...agm, chemistry: 'flooded' },
        grid,
        cells((m) => (m < 400 ? -20 : 0)),
        cells((m) => (m < 400 ? 11.0 : volts)),
      );
      return one!.byTable!;
    };
    // Empty and rested: 11.89 V (Battery Council International, from memory).
    expect(byTable(12.1)).toBe(1);
    expect(byTable(11.85)).toBeGreaterThan(0.7);
    expect(byTable(11.75)).toBeLessThan(0.4);
    expect(byTable(11.6)).toBe(0);
  });
});
