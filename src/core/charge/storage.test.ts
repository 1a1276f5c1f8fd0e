import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { HOUR, MINUTE } from '../quantity/span';
import { demoSite } from '../simulate/demo';
import { seededRandom } from '../simulate/random';
import type { KnownSystem } from '../system/known';
import { findCharges } from './charges';

const START = Date.UTC(2026, 5, 1);
const DAYS = 6;
const { system } = demoSite('tide-gauge');
const known: KnownSystem = {
  ...system,
  sources: [{ ...system.sources[0]!, kind: 'mains', profile: { absorptionV: 14.4, floatV: 13.6 } }],
};

/** V and A of a mains charger at a minute of the day; days count from 0. */
type Day = (minute: number, load: number, day: number) => [volts: number, amps: number];

/** Mains from six in the morning for twenty hours: bulk for two hours, absorption for three, float until `floatEnds`, then `after`. */
const mains =
  (floatEnds: number, after: Day): Day =>
  (minute, load, day) => {
    const into = (minute - 360 + 1440) % 1440;
    if (into < 120) return [12.6 + 1.8 * (into / 120) ** 1.5, 20];
    if (into < 300) return [14.4, 1.5 + 18 * Math.exp(-(into - 120) / 40) + load];
    if (into < floatEnds) return [13.6, 0.2 + load];
    if (into < 1200) return after(into - floatEnds, load, day);
    return [12.5, 0];
  };

/** Loads of 2 A and of 9 A by turns of twenty minutes, carried by the charger; noise of a plain meter. */
function charging(day: Day) {
  const random = seededRandom(5);
  const count = DAYS * 1440;
  const volts = new Float32Array(count);
  const amps = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const [v, a] = day(i % 1440, i % 40 < 20 ? 2 : 9, Math.floor(i / 1440));
    volts[i] = Math.round((v + random.normal(0, 0.004)) * 100) / 100;
    amps[i] = Math.round((a === 0 ? 0 : a + random.normal(0, 0.05)) * 10) / 10;
  }
  const log: Series = {
    device: known.sources[0]!.id,
    time: Float64Array.from({ length: count }, (_, i) => START + i * MINUTE),
    channels: { source_voltage: volts, source_current: amps },
  };
  return findCharges(known, timelineOf([log]))[0]!;
}

const floatsOf = (day: Day) =>
  charging(day).charges.flatMap(({ stages }) => stages.filter((one) => one.stage === 'float'));

test('a charger that goes from float down to a storage voltage still floats, and its float is measured before that', () => {
  const seen = charging(mains(600, (_, load) => [13.2, 0.1 + load]));
  expect(seen.setpoints.storage!.volts).toBeCloseTo(13.2, 1);
  const charges = seen.charges.slice(1, -1);
  expect(charges.length).toBeGreaterThanOrEqual(DAYS - 2);
  for (const { stages } of charges) {
    const float = stages.find((one) => one.stage === 'float')!;
    expect(float.volts).toBeCloseTo(13.6, 1);
    expect(float.heldMs / HOUR).toBeCloseTo(5, 0);
    // Absorption's end to the mains' end: no bulk in between.
    expect((float.to - float.from) / HOUR).toBeCloseTo(15, 0);
    expect(stages.filter((one) => one.stage === 'bulk' && one.to - one.from > 10 * MINUTE)).toHaveLength(1);
  }
});

test('a float that is kept has no storage under it', () => {
  expect(charging(mains(1200, () => [13.6, 2])).setpoints.storage).toBeNull();
});

test('a battery that sinks from float by itself is kept at nothing', () => {
  const sinks = mains(600, (minutes) => [13.5 - 0.7 * Math.min(1, minutes / 400), 0]);
  expect(charging(sinks).setpoints.storage).toBeNull();
  for (const float of floatsOf(sinks)) expect(float.heldMs / HOUR).toBeLessThan(6);
});

test('a charger whose loads pull it under its float day after day is short, and stores nothing', () => {
  const short = mains(600, (minutes, load) => [13.15 - 0.02 * load - 0.0002 * minutes, 20]);
  expect(charging(short).setpoints.storage).toBeNull();
});

test('a voltage above float on a day or two makes no storage of the float', () => {
  const { storage, float } = charging(
    mains(300, (minutes, load, day) => [day % 4 === 1 && minutes < 480 ? 13.8 : 13.4, 0.2 + load]),
  ).setpoints;
  expect(float!.volts).toBeCloseTo(13.4, 1);
  expect(storage).toBeNull();
});
