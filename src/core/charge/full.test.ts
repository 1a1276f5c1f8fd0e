/** When a battery counts as truly full: by its own source, by others that hold the voltage, and by no low plateau. Drawn views. */

import { drawnView } from '../../../tests/support/drawnView';
import { agm, charge, lithium, stage } from '../../../tests/support/drawnCharges';
import { HOUR, MINUTE } from '../quantity/span';
import type { Stage } from './types';
import { fullOnFloat, heldFullBy, isFull } from './full';

// 100 Ah: its tail is 2 A.
const hold = (part: Partial<Stage> = {}): Stage =>
  stage({ stage: 'hold', from: 0, to: 4 * HOUR, celsius: 25, blocked: false, ...part });
const falling = (minute: number) => 20 * Math.exp(-minute / 40);
/** The battery's current falls under 2 A after 92 minutes. */
const view = (volts: number, battery: (minute: number) => number = falling) =>
  drawnView({ minutes: 240, volts: () => volts, amps: () => 0, battery });
const setpoints = { floatVolts: 13.6, voltsPerC: 0 };
const fullBy = (volts: number, battery = falling, part: Partial<Stage> = {}) =>
  heldFullBy([hold(part)], agm, view(volts, battery), setpoints)[0];

describe('while others hold the voltage', () => {
  test('full when the current has stood at its tail for ten minutes, to the end of the stage', () => {
    const full = fullBy(14.4)!;
    expect(full.from / MINUTE).toBeGreaterThan(95);
    expect(full.from / MINUTE).toBeLessThan(115);
    expect(full.to).toBe(4 * HOUR);
  });

  test('not at a voltage that does not fill it, nor at another source’s float', () => {
    expect(fullBy(13.9)).toBeUndefined();
    expect(fullBy(13.8)).toBeUndefined();
    // A bank that may be filled at 14.1 V, with a float a little under that.
    expect(heldFullBy([hold()], agm, view(14.1), { floatVolts: 13.9, voltsPerC: 0 })).toEqual([]);
  });

  test('not with a current that goes on, one that a load draws from it, or one that the BMS stops', () => {
    expect(fullBy(14.4, () => 6)).toBeUndefined();
    expect(fullBy(14.4, () => -5)).toBeUndefined();
    expect(fullBy(14.4, falling, { blocked: true })).toBeUndefined();
  });

  test('a dip of the current is none: it has to stay there', () => {
    expect(fullBy(14.4, (minute) => (minute % 20 < 5 ? 1 : 8))).toBeUndefined();
  });

  // A monitor that writes every twenty minutes beside a charger that writes every ten shows the current of before.
  test('one sample of a slow log is none', () => {
    const slow = (volts: (minute: number) => number, battery: (minute: number) => number) =>
      heldFullBy(
        [hold()],
        agm,
        drawnView({ minutes: 240, step: 10 * MINUTE, volts, amps: () => 0, battery }),
        setpoints,
      );
    const rises = (minute: number) => (minute < 120 ? 13.6 : 14.4);
    expect(slow(rises, (minute) => (minute < 130 ? 1 : 8))).toEqual([]);
    expect(
      slow(
        () => 14.4,
        (minute) => (minute < 120 ? 8 : 1),
      ),
    ).toHaveLength(1);
  });

  test('not in stages of its own', () => {
    expect(heldFullBy([hold({ stage: 'float' })], agm, view(14.4), setpoints)).toEqual([]);
  });
});

describe('by its own absorption', () => {
  const absorption = (part: Partial<Stage>) =>
    stage({
      stage: 'absorption',
      volts: 14.4,
      batteryVolts: NaN,
      celsius: 25,
      endAmps: 1.5,
      settledAmps: 1.5,
      endedBy: 'tail',
      blocked: false,
      cutOff: false,
      ...part,
    });
  const full = (part: Partial<Stage>) =>
    isFull({ ...charge([absorption(part)]), heldFull: [], fullOnFloat: [] }, agm, {
      ampNoise: 0.05,
      blocks: 1,
    });

  test('down to the tail; not above it, too low, too short, or cut off', () => {
    expect(full({})).toBe(true);
    expect(full({ endAmps: 3 })).toBe(false);
    expect(full({ volts: 13.7 })).toBe(false);
    expect(full({ heldMs: MINUTE })).toBe(false);
    expect(full({ cutOff: true })).toBe(false);
  });

  test('above the tail where the current no longer falls after hours: it goes to gas; not at the limit of the charger, nor lithium', () => {
    const steady = { endAmps: 3.5, endSourceAmps: 3.5, heldMs: 5 * HOUR, fallsPerHour: 0.05 };
    expect(full(steady)).toBe(true);
    expect(full({ ...steady, fallsPerHour: 0.4 })).toBe(false);
    expect(full({ ...steady, fallsPerHour: NaN })).toBe(false);
    // A current that rises is set free by loads, or by the sun.
    expect(full({ ...steady, fallsPerHour: -0.4 })).toBe(false);
    expect(full({ ...steady, volts: 13.7 })).toBe(false);
    expect(full({ ...steady, endAmps: 9, endSourceAmps: 9 })).toBe(false);
    // 50 mV a cell above its range nearly three times as much gasses.
    expect(full({ ...steady, volts: 14.9, endAmps: 9, endSourceAmps: 9 })).toBe(true);
    const bulk = stage({ stage: 'bulk', usualSourceAmps: 20 });
    const stages = [bulk, absorption({ ...steady, endAmps: 9, endSourceAmps: 9 })];
    const view = { ampNoise: 0.05, blocks: 1 };
    expect(isFull({ ...charge(stages), heldFull: [], fullOnFloat: [] }, agm, view)).toBe(true);
    expect(
      isFull(
        { ...charge([absorption(steady)]), heldFull: [], fullOnFloat: [] },
        { ...agm, chemistry: 'lfp' },
        view,
      ),
    ).toBe(false);
  });

  test('a meter that shows a battery drawn on at its charge voltage is off: no more goes in than the only charger gives', () => {
    const off = (endSourceAmps: number, alone: boolean, part: Partial<Stage> = {}) => {
      const stages = [absorption({ endAmps: -0.5, endAmpsAreBattery: true, endSourceAmps, ...part })];
      return isFull(
        { ...charge(stages), heldFull: [], fullOnFloat: [] },
        agm,
        { ampNoise: 0.05, blocks: 1 },
        alone,
      );
    };
    expect(off(0.8, true)).toBe(true);
    expect(off(8, true)).toBe(false);
    // Another source may give what flows.
    expect(off(0.8, false)).toBe(false);
    // A sun that goes down gives nothing at the end: what it gave before counts.
    const dusk = { endedBy: 'source-lost' as const, settledAmps: -0.5, usualSourceAmps: 8 };
    expect(off(0.1, true, dusk)).toBe(false);
    // A full battery at nothing, whose charger carries the loads, needs no such proof.
    expect(off(8, true, { endAmps: -0.05 })).toBe(true);
  });

  test('by a long float, not where the charger gives a part of what the loads take from the battery', () => {
    const floated = (part: Partial<Stage>, endAmps = 6, volts = 14.4) => {
      const float = stage({ stage: 'float', volts: 13.6, celsius: 25, heldMs: 9 * HOUR, ...part });
      const stages = [absorption({ endAmps, volts }), { ...float, endAmpsAreBattery: true }];
      const view = { ampNoise: 0.05, blocks: 1 };
      return isFull(
        { ...charge(stages), heldFull: [], fullOnFloat: fullOnFloat(stages, agm, view, true) },
        agm,
        view,
        true,
      );
    };
    expect(floated({ endAmps: 0.1, settledAmps: 0.1, usualSourceAmps: 2 })).toBe(true);
    expect(floated({ endAmps: -1.5, settledAmps: -1.7, usualSourceAmps: 1.1 })).toBe(false);
    // A twentieth of the tail where absorption was broken off far above it: what is missing goes in slowly.
    expect(floated({ settledAmps: 0.2, usualSourceAmps: 2 })).toBe(false);
    expect(floated({ settledAmps: 0.2, usualSourceAmps: 2 }, 2.5)).toBe(true);
    // Above an eighth of the tail only where it no longer falls, at the end of so long a float, and absorption left little.
    expect(floated({ settledAmps: 0.4, fallsPerHour: 0.01 }, 3)).toBe(true);
    expect(floated({ settledAmps: 0.4, fallsPerHour: 0.01 }, 6)).toBe(false);
    expect(floated({ settledAmps: 0.4, fallsPerHour: 0.1 }, 3)).toBe(false);
    expect(floated({ settledAmps: 0.4, fallsPerHour: 0.01, heldMs: 5 * HOUR }, 3)).toBe(false);
    expect(floated({ settledAmps: 0.9, fallsPerHour: 0.01 }, 3)).toBe(false);
    // After an absorption at too low a voltage a small current proves nothing.
    expect(floated({ settledAmps: 0.4, fallsPerHour: 0.01 }, 3, 13.8)).toBe(false);
  });

  test('by days on float, though the absorption before it is not in the log; lead only, at a current that has come to rest', () => {
    const kept = (part: Partial<Stage>, bank: typeof agm | typeof lithium = agm) => {
      const days = { heldMs: 60 * HOUR, settledAmps: 0.3, fallsPerHour: 0.01, ...part };
      const float = stage({ stage: 'float', volts: 13.6, celsius: 25, ...days });
      const ranges = { ...bank, floatVolts: { min: 13.5, max: 13.8 } };
      const view = { ampNoise: 0.05, blocks: 1 };
      return fullOnFloat([{ ...float, endAmpsAreBattery: true }], ranges, view, true).length;
    };
    expect(kept({})).toBe(1);
    expect(kept({ heldMs: 20 * HOUR })).toBe(0);
    expect(kept({ fallsPerHour: 0.1 })).toBe(0);
    expect(kept({ settledAmps: 0.8 })).toBe(0);
    expect(kept({ volts: 13.1 })).toBe(0);
    expect(kept({}, lithium)).toBe(0);
  });

  test('not lithium by a float at which it may stand with a part of its charge gone', () => {
    const floats = (volts: number) => {
      const float = stage({ stage: 'float', volts, settledAmps: 0.1, celsius: 25, heldMs: 9 * HOUR });
      const stages = [absorption({ endAmps: 3 }), { ...float, endAmpsAreBattery: true }];
      const bank = { ...lithium, floatVolts: { min: 13.2, max: 13.6 } };
      return fullOnFloat(stages, bank, { ampNoise: 0.05, blocks: 1 }, true).length;
    };
    expect([floats(13.3), floats(13.5)]).toEqual([0, 1]);
  });

  test('each float that shows it by itself is known', () => {
    const float = (from: number, part: Partial<Stage> = {}) =>
      stage({ stage: 'float', from: from * HOUR, volts: 13.6, celsius: 25, heldMs: 9 * HOUR, ...part });
    const stages = [
      float(0, { settledAmps: 0.1 }),
      absorption({ endAmps: 6 }),
      float(10, { settledAmps: 0.1 }),
      float(20, { settledAmps: 0.8 }),
      float(30, { settledAmps: 0.1, heldMs: HOUR }),
      float(40, { settledAmps: 0.05 }),
    ].map((one) => ({ ...one, endAmpsAreBattery: true }));
    const found = fullOnFloat(stages, agm, { ampNoise: 0.05, blocks: 1 }, true);
    // No absorption came before the first; too much flows in the next but one, and the last but one is short.
    expect(found.map((one) => one.from / HOUR)).toEqual([10, 40]);
  });

  test('what others did counts too', () => {
    const held = {
      ...charge([absorption({ endAmps: 9 })]),
      heldFull: [{ from: 0, to: HOUR }],
      fullOnFloat: [],
    };
    expect(isFull(held, agm, { ampNoise: 0.05, blocks: 1 })).toBe(true);
  });
});

describe('lithium that comes to its voltage', () => {
  // 30 A up to 14.4 V, where the current is gone within minutes; then it rests. Once a day.
  const day = 1440;
  const top = (m: number) => m % day >= 300 && m % day < 304;
  const lithiumView = (least: number) =>
    drawnView({
      minutes: 2 * day,
      volts: (m) => (top(m) ? 14.4 : m % day < 300 ? 13.4 : 13.35),
      amps: (m) => (m % day < 300 ? 30 : top(m) ? least : 0),
      battery: (m) => (m % day < 300 ? 30 : top(m) ? least : 0),
    });
  const bulk = stage({ stage: 'bulk', from: 0, to: 48 * HOUR, celsius: 25, blocked: false });
  const by = (least: number, part: Partial<Stage> = {}, bank: typeof agm | typeof lithium = lithium) =>
    heldFullBy([{ ...bulk, ...part }], bank, lithiumView(least), { floatVolts: 13.5, voltsPerC: 0 });
  test('is full there each time, for as long as it stands there', () => {
    expect(by(1).map(({ from, to }) => [Math.round(from / HOUR), to - from < 5 * MINUTE])).toEqual([
      [5, true],
      [29, true],
    ]);
  });
  test('also by a meter whose zero is off, but not where a load draws', () => {
    expect(by(-0.4)).toHaveLength(2);
    expect(by(-5)).toEqual([]);
  });
  test('not while much still flows, nor where the BMS stops it; lead is not', () => {
    expect(by(10)).toEqual([]);
    expect(by(1, { blocked: true })).toEqual([]);
    expect(by(1, {}, agm)).toEqual([]);
  });
});
