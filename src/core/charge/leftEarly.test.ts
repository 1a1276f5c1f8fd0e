/** A charger that stops because another gives the current, beside one that stops because the battery is full. Drawn, so that the answer is known. */

import { timelineOf } from '../log/timeline';
import type { Series } from '../log/channels';
import { MINUTE } from '../quantity/span';
import { demoSite } from '../simulate/demo';
import { seededRandom } from '../simulate/random';
import type { KnownSystem } from '../system/known';
import { findCharges } from './charges';

const START = Date.UTC(2026, 5, 1);
const { system } = demoSite('tide-gauge');
const { capacityAh } = system.bank;
const [first] = system.sources;
const two: KnownSystem = {
  ...system,
  sources: [
    { ...first!, id: 'mains', name: 'Mains charger', kind: 'mains', ratedA: 30, profile: {} },
    { ...first!, id: 'sun', name: 'Solar controller', kind: 'solar', ratedA: 30, profile: {} },
  ],
};

/** Six days: bulk three hours, absorption of about two that no clock ends, float. @param sunAmps what the sun gives meanwhile @param restAmps what the battery still takes at the end of absorption @param sinkMinutes how long the voltage sinks before float @param sunGoesOn whether the sun gives on when the mains charger has left */
function draw(sunAmps: number, restAmps: number, sinkMinutes = 0, sunGoesOn = true): Series[] {
  const random = seededRandom(8);
  const count = 6 * 1440;
  const time = Float64Array.from({ length: count }, (_, i) => START + i * MINUTE);
  const columns = Array.from({ length: 4 }, () => new Float32Array(count));
  for (let i = 0; i < count; i++) {
    const into = (i % 1440) - 8 * 60;
    const charging = into >= 0 && into < 600;
    // No day is like the other: it ends when the current has fallen, sooner or later.
    const minutes = 90 + 15 * ((Math.floor(i / 1440) * 3) % 5);
    const sun = charging && (sunGoesOn || into < 182 + minutes) ? sunAmps : 0;
    const battery = !charging
      ? -2
      : into < 180
        ? 25
        : into < 180 + minutes
          ? restAmps + (25 - restAmps) * Math.exp((-3 * (into - 180)) / minutes)
          : into < 180 + minutes + sinkMinutes
            ? restAmps
            : Math.max(1, restAmps / 3);
    const volts = !charging
      ? 12.5
      : into < 180
        ? 12.7 + 1.7 * (into / 180) ** 1.5
        : into < 180 + minutes
          ? 14.4
          : into < 180 + minutes + sinkMinutes
            ? 14.2 - (0.5 * (into - 180 - minutes)) / sinkMinutes
            : 13.6;
    const sinks = into >= 180 + minutes && into < 180 + minutes + sinkMinutes;
    // The cell in which it leaves still has part of its current.
    const mains = charging ? Math.max(0, battery - sun) * (sinks ? 0.7 : 1) : 0;
    [volts + random.normal(0, 0.004), mains, sun, battery].forEach((value, k) => {
      columns[k]![i] = value + (k > 0 ? random.normal(0, 0.03) : 0);
    });
  }
  const [volts, mains, sun, battery] = columns as [Float32Array, Float32Array, Float32Array, Float32Array];
  return [
    { device: 'mains', time, channels: { source_voltage: volts, source_current: mains } },
    { device: 'sun', time, channels: { source_voltage: volts, source_current: sun } },
    { device: 'monitor', time, channels: { battery_voltage: volts, battery_current: battery } },
  ];
}

const ofMains = (series: Series[]) =>
  findCharges(two, timelineOf(series)).find((one) => one.source?.id === 'mains')!.leftEarly!;

test('with the sun giving most of it, the mains charger leaves while the battery still takes a charging current', () => {
  const rest = 0.06 * capacityAh;
  const left = ofMains(draw(0.8 * rest, rest));
  expect(left.ended).toBeGreaterThanOrEqual(5);
  expect(left.stages.length).toBe(left.ended);
  expect(left.batteryAmps).toBeGreaterThan(0.05 * capacityAh);
  expect(left.ownAmps / left.batteryAmps).toBeLessThan(0.5);
  expect(left.othersAmps / (0.8 * rest)).toBeCloseTo(1, 1);
});

test('where the sun leaves with it, nobody held the battery for it: its threshold is too high', () => {
  const rest = 0.06 * capacityAh;
  expect(ofMains(draw(0.5 * rest, rest, 0, false)).stages).toEqual([]);
  expect(ofMains(draw(0.5 * rest, rest)).stages.length).toBeGreaterThan(3);
});

test('a voltage that sinks for a minute or two on its way to float hides none of it', () => {
  const rest = 0.06 * capacityAh;
  for (const minutes of [1, 2]) {
    const left = ofMains(draw(0.8 * rest, rest, minutes));
    expect([minutes, left.ended]).toEqual([minutes, ofMains(draw(0.8 * rest, rest)).ended]);
    expect([minutes, left.stages.length]).toEqual([minutes, left.ended]);
  }
});

test('without the log of the sun, others gave what the battery took and the charger did not', () => {
  const rest = 0.06 * capacityAh;
  const [mains, , monitor] = draw(0.8 * rest, rest);
  const left = ofMains([mains!, monitor!]);
  expect(left.stages.length).toBe(left.ended);
  expect(left.othersAmps).toBeGreaterThan(0.5 * left.batteryAmps);
});

test('a battery that is at its tail, and a charger that gives it all, are left as they should be', () => {
  expect(ofMains(draw(0.008 * capacityAh, 0.01 * capacityAh)).stages).toEqual([]);
  expect(ofMains(draw(0.2, 0.06 * capacityAh)).stages).toEqual([]);
});
