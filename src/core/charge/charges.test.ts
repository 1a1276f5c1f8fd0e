import { HOUR, MINUTE } from '../quantity/span';
import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { demoSite } from '../simulate/demo';
import { seededRandom } from '../simulate/random';
import type { KnownSystem } from '../system/known';
import { findCharges } from './charges';

const START = Date.UTC(2026, 5, 1);
const { system } = demoSite('tide-gauge');

/** Days of a drawn charge on the tide gauge's bank: what a stage is follows from the drawing, minute by minute. */
interface Drawn {
  days: number;
  /** Minutes of absorption on a day, and current at its end, A. */
  minutes: (day: number) => number;
  endAmps: (day: number) => number;
  absorptionV?: number;
  cloudAt?: number;
  quantum?: number;
}

function draw({ days, minutes, endAmps, absorptionV = 14.4, cloudAt, quantum = 0.01 }: Drawn): Series {
  const random = seededRandom(11);
  const count = days * 1440;
  const time = Float64Array.from({ length: count }, (_, i) => START + i * MINUTE);
  const volts = new Float32Array(count);
  const amps = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const day = Math.floor(i / 1440);
    const minute = i % 1440;
    const absorb = minutes(day);
    let v = 12.4;
    let a = 0;
    const into = minute - 8 * 60;
    if (into >= 0 && into < 180) {
      v = 12.6 + (absorptionV - 12.6) * (into / 180) ** 1.5;
      a = 20;
    } else if (into >= 180 && into < 180 + absorb) {
      const part = (into - 180) / absorb;
      v = absorptionV;
      a = endAmps(day) + (20 - endAmps(day)) * ((Math.exp(-3 * part) - Math.exp(-3)) / (1 - Math.exp(-3)));
      if (cloudAt !== undefined && into - 180 >= cloudAt && into - 180 < cloudAt + 8) {
        v = 13.1;
        a = 3;
      }
    } else if (into >= 180 + absorb && into < 600) {
      v = 13.6;
      a = 2.5;
    }
    volts[i] = Math.round((v + random.normal(0, 0.004)) / quantum) * quantum;
    amps[i] = Math.round((a + random.normal(0, 0.04)) * 10) / 10;
  }
  return { device: 'solar', time, channels: { source_voltage: volts, source_current: amps } };
}

const plain: KnownSystem = {
  ...system,
  sources: [{ ...system.sources[0]!, profile: { absorptionV: 14.4 } }],
};
const chargesOf = (drawn: Drawn, of: KnownSystem = plain) => findCharges(of, timelineOf([draw(drawn)]))[0]!;
const ends = (drawn: Drawn) =>
  chargesOf(drawn)
    .charges.flatMap((charge) => charge.stages)
    .filter((stage) => stage.stage === 'absorption')
    .map((stage) => stage.endedBy);

test('a charge at a setting below the range is judged at the temperature that the setting tells, where none was logged', () => {
  const bank = { ...plain.bank, chargeVolts: { min: 14.2, max: 14.6 } };
  // Six cells at −4 mV: lifted by 0.3 V at 12 °C.
  const at = (absorptionV: number, site: KnownSystem['site'] = undefined) =>
    chargesOf(
      { days: 5, minutes: () => 240, endAmps: () => 0.3, absorptionV: 14.03 },
      {
        ...plain,
        bank,
        site,
        sources: [{ ...plain.sources[0]!, profile: { absorptionV, compensationMvPerCellPerC: -4 } }],
      },
    ).charges;
  const low = at(13.72);
  for (const stage of low.flatMap((one) => one.stages)) expect(stage.impliedC).toBeCloseTo(12, 0);
  expect(low.filter((one) => one.full)).toEqual([]);
  // A setting that is right, and a June that is not so cold, tell none.
  for (const charges of [at(14.25), at(13.72, { coldestC: 8, warmestC: 34 })]) {
    expect(charges.flatMap((one) => one.stages).filter((stage) => stage.impliedC !== undefined)).toEqual([]);
    expect(charges.some((one) => one.full)).toBe(true);
  }
});

test('bulk, absorption and float are found with their times, voltages and currents', () => {
  const { setpoints, charges } = chargesOf({ days: 5, minutes: () => 90, endAmps: (day) => 5 + day });
  expect(setpoints.absorption!.volts).toBeCloseTo(14.4, 1);
  expect(setpoints.float!.volts).toBeCloseTo(13.6, 1);
  expect(charges).toHaveLength(5);
  charges.forEach((charge, day) => {
    expect(charge.stages.map((one) => one.stage)).toEqual(['bulk', 'absorption', 'float']);
    const absorption = charge.stages[1]!;
    expect(Math.abs(absorption.from - (START + day * 24 * HOUR + 11 * HOUR))).toBeLessThanOrEqual(4 * MINUTE);
    expect(Math.abs(absorption.heldMs / MINUTE - 90)).toBeLessThanOrEqual(4);
    expect(Math.abs(absorption.endAmps - (5 + day))).toBeLessThan(1.2);
  });
});

test('the same duration with differing currents is a timer', () => {
  expect(ends({ days: 6, minutes: () => 60, endAmps: (day) => 6 + 1.5 * day })).toEqual(
    Array(6).fill('timer'),
  );
});

test('the same current after differing durations is a tail', () => {
  expect(ends({ days: 6, minutes: (day) => 60 + 25 * day, endAmps: () => 3 })).toEqual(Array(6).fill('tail'));
});

test('one charge alone says nothing, unless the setting does', () => {
  const one = { days: 1, minutes: () => 60, endAmps: () => 6 };
  expect(ends(one)).toEqual(['unknown']);
  const told = {
    ...plain,
    sources: [{ ...plain.sources[0]!, profile: { absorptionV: 14.4, absorptionMinutes: 60 } }],
  };
  const { charges } = chargesOf(one, told);
  expect(charges[0]!.stages.find((stage) => stage.stage === 'absorption')!.endedBy).toBe('timer');
});

test('a cloud in absorption is a dip, and the timer is still seen', () => {
  const cloudy = chargesOf({ days: 5, minutes: () => 80, endAmps: (day) => 5 + day, cloudAt: 30 });
  for (const charge of cloudy.charges) {
    expect(charge.stages.map((one) => one.stage)).toEqual(['bulk', 'absorption', 'float']);
    expect(charge.stages[1]!.dips).toBe(1);
    expect(charge.stages[1]!.endedBy).toBe('timer');
  }
});

test('a coarse meter (0.1 V) still shows the stages', () => {
  const { charges } = chargesOf({ days: 5, minutes: () => 90, endAmps: (day) => 5 + day, quantum: 0.1 });
  for (const charge of charges)
    expect(charge.stages.map((one) => one.stage)).toEqual(['bulk', 'absorption', 'float']);
});

test('a battery at rest has no charges', () => {
  const resting = draw({ days: 3, minutes: () => 60, endAmps: () => 5 });
  const random = seededRandom(5);
  resting.channels.source_voltage = resting.channels.source_voltage!.map(() => 12.7 + random.normal(0, 0.01));
  resting.channels.source_current = resting.channels.source_current!.map(() => random.normal(0, 0.05));
  const { setpoints, charges } = findCharges(plain, timelineOf([resting]))[0]!;
  expect(setpoints.absorption).toBeNull();
  expect(charges).toEqual([]);
});

describe('full', () => {
  const tapered = { days: 5, minutes: () => 240, endAmps: () => 0.5 };
  const fullOf = (...series: Series[]) =>
    findCharges(plain, timelineOf(series))[0]!.charges.map((charge) => charge.full);

  test('a tail that is reached, day after day', () => {
    expect(fullOf(draw(tapered))).toEqual(Array(5).fill(true));
  });

  test('not where the log ends during absorption', () => {
    const whole = draw(tapered);
    const end = 4 * 1440 + 8 * 60 + 180 + 200;
    const cut: Series = {
      ...whole,
      time: whole.time.slice(0, end),
      channels: {
        source_voltage: whole.channels.source_voltage!.slice(0, end),
        source_current: whole.channels.source_current!.slice(0, end),
      },
    };
    expect(fullOf(cut)).toEqual([true, true, true, true, false]);
  });

  test('not where a load draws the battery down meanwhile', () => {
    const charger = draw({ ...tapered, endAmps: () => 5 });
    const { source_voltage: volts, source_current: amps } = charger.channels;
    // On the last two days the loads take more than the charger gives from the middle of absorption on.
    const battery = amps!.map((value, i) => {
      const late = i % 1440 >= 8 * 60 + 180 + 120 && i >= 3 * 1440;
      return late ? value - 12 : Math.max(0, value - 4.6);
    });
    const monitor: Series = {
      device: 'monitor',
      time: charger.time,
      channels: { battery_voltage: volts!, battery_current: battery },
    };
    expect(fullOf(charger, monitor)).toEqual([true, true, true, false, false]);
  });
});
