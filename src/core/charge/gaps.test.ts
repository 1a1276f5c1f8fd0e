/** Silences inside a charge, limits that move, halves of a bank, and what a log of many minutes a sample still shows. */

import { HOUR, MINUTE } from '../quantity/span';
import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { demoSite } from '../simulate/demo';
import { seededRandom } from '../simulate/random';
import type { KnownSystem } from '../system/known';
import { findCharges } from './charges';

const START = Date.UTC(2026, 5, 1);
const { system } = demoSite('tide-gauge');
const mains: KnownSystem = {
  ...system,
  sources: [{ ...system.sources[0]!, kind: 'mains', ratedA: 20, profile: {} }],
};

/** Five days of the same charge, drawn: bulk at 20 A for three hours, absorption for two, float until six in the evening. */
function draw({ volts = 14.4, floatV = 13.6, every = 1, bulkAmps = (_: number): number => 20 } = {}): Series {
  const random = seededRandom(21);
  const count = (5 * 1440) / every;
  const time = Float64Array.from({ length: count }, (_, i) => START + i * every * MINUTE);
  const v = new Float32Array(count);
  const a = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const into = ((i * every) % 1440) - 8 * 60;
    const [volt, amp] =
      into < 0 || into >= 600
        ? [volts - 1.9, 0]
        : into < 180
          ? [volts - 1.7 + 1.7 * (into / 180) ** 1.5, bulkAmps(into)]
          : into < 300
            ? [volts, 3 + 17 * Math.exp(-(into - 180) / 40)]
            : [floatV, 2.5];
    v[i] = Math.round((volt + random.normal(0, 0.004)) * 100) / 100;
    a[i] = Math.round((amp + random.normal(0, 0.04)) * 10) / 10;
  }
  return { device: system.sources[0]!.id, time, channels: { source_voltage: v, source_current: a } };
}

function without(log: Series, from: number, to: number): Series {
  const kept = Array.from(log.time.keys()).filter((i) => log.time[i]! < from || log.time[i]! >= to);
  return {
    ...log,
    time: Float64Array.from(kept, (i) => log.time[i]!),
    channels: {
      source_voltage: Float32Array.from(kept, (i) => log.channels.source_voltage![i]!),
      source_current: Float32Array.from(kept, (i) => log.channels.source_current![i]!),
    },
  };
}

const chargesOf = (log: Series, of: KnownSystem = mains) => findCharges(of, timelineOf([log]))[0]!.charges;
const names = (charge: { stages: { stage: string }[] }) => charge.stages.map((one) => one.stage);

describe('a silence of the log', () => {
  const day = START + 2 * 24 * HOUR;

  test('of twenty minutes in absorption is no time held, and the stage goes on', () => {
    const from = day + 12 * HOUR;
    const charge = chargesOf(without(draw(), from, from + 20 * MINUTE))[2]!;
    expect(names(charge)).toEqual(['bulk', 'absorption', 'float']);
    const absorption = charge.stages[1]!;
    expect(Math.abs((absorption.to - absorption.from) / MINUTE - 120)).toBeLessThan(5);
    expect(Math.abs(absorption.heldMs / MINUTE - 100)).toBeLessThan(6);
    expect(absorption.cutOff).toBe(false);
  });

  test('of an hour in absorption cuts the stage: what was before it has no known length', () => {
    const from = day + 11.5 * HOUR;
    const charge = chargesOf(without(draw(), from, from + HOUR))[2]!;
    expect(names(charge)).toEqual(['bulk', 'absorption', 'absorption', 'float']);
    expect(charge.stages.slice(1, 3).map((one) => one.cutOff)).toEqual([true, true]);
    expect(charge.stages[1]!.heldMs / MINUTE).toBeLessThan(35);
  });

  test('of three hours parts two charges', () => {
    const from = day + 11.5 * HOUR;
    const charges = chargesOf(without(draw(), from, from + 3 * HOUR));
    expect(charges).toHaveLength(6);
    for (const charge of charges)
      for (const stage of charge.stages)
        expect(stage.from >= from + 3 * HOUR || stage.to <= from + MINUTE).toBe(true);
  });
});

test('a limit that falls in the middle of bulk is still bulk', () => {
  const [charge] = chargesOf(draw({ bulkAmps: (minute) => (minute < 90 ? 20 : 11) })).slice(1);
  expect(names(charge!)).toEqual(['bulk', 'absorption', 'float']);
  expect(Math.abs(charge!.stages[0]!.heldMs / HOUR - 3)).toBeLessThan(0.15);
});

test('ten minutes a sample show the same stages as one minute', () => {
  const lengths = (every: number) =>
    chargesOf(draw({ every }))[2]!.stages.map((one) => [
      one.stage,
      Math.round((one.to - one.from) / (30 * MINUTE)),
    ]);
  expect(lengths(10)).toEqual(lengths(1));
});

test('a held voltage far too low is absorption all the same, and a battery is not called full on it', () => {
  const low = draw({ volts: 13.3, floatV: 12.9 });
  // The current falls to next to nothing, because the voltage is too low to drive it.
  low.channels.source_current = low.channels.source_current!.map((one) => (one < 6 ? one / 10 : one));
  const charges = chargesOf(low);
  expect(charges.flatMap(names)).toContain('absorption');
  expect(charges.some((one) => one.full)).toBe(false);
});

test('the charger of one half is judged by the volts of its half', () => {
  const bank: KnownSystem['bank'] = {
    ...mains.bank,
    cellsInSeries: 12,
    chargeVolts: { min: 28.4, max: 29.2 },
    floatVolts: { min: 27.2, max: 27.6 },
  };
  const halves: KnownSystem = { ...mains, bank, sources: [{ ...mains.sources[0]!, across: 'lower' }] };
  const log = draw();
  log.channels.source_current = log.channels.source_current!.map((one) => (one < 6 ? one / 6 : one));
  const [found] = findCharges(halves, timelineOf([log]));
  expect(found!.bank).toMatchObject({ cellsInSeries: 6, chargeVolts: { min: 14.2, max: 14.6 } });
  expect(names(found!.charges[2]!)).toEqual(['bulk', 'absorption', 'float']);
  expect(found!.charges[2]!.full).toBe(true);
});

test('no figure of a stage that has a voltage is NaN without a reason', () => {
  for (const charge of chargesOf(draw()))
    for (const stage of charge.stages) {
      expect(stage.volts).toBeGreaterThan(10);
      expect(stage.heldMs).toBeGreaterThan(0);
      expect(stage.ampHours).not.toBeNaN();
    }
});

test('a sample a day, or two in a year, is judged without a word too many', () => {
  for (const every of [1440, 720])
    expect(chargesOf(draw({ every })).every((one) => one.stages.length > 0)).toBe(true);
  const whole = draw();
  const ends: Series = {
    ...whole,
    time: Float64Array.of(START, START + 365 * 24 * HOUR),
    channels: { source_voltage: Float32Array.of(13, 14), source_current: Float32Array.of(1, 2) },
  };
  expect(chargesOf(ends).flatMap(names)).not.toContain('absorption');
});
