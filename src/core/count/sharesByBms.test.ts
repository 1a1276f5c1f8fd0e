/** Beside the meter of a BMS: a charger by the clock, and loads that nobody logged. */

import { seededRandom } from '../simulate/random';
import { timelineOf } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import type { CounterLog } from './counterLog';
import { sharesByBms } from './sharesByBms';

const MINUTE = 60_000;
const COUNT = 4 * 1440;
const system = {
  bank: { capacityAh: 100 },
  sources: [{ id: 'charger', kind: 'mains' }],
  loads: [],
} as unknown as KnownSystem;

/** @param shown what the monitor shows, by what the charger gives and the loads draw, A */
function shareBy(shown: (given: number, drawn: number) => number) {
  const random = seededRandom(3);
  const time = Float64Array.from({ length: COUNT }, (_, i) => i * MINUTE);
  const given = Float32Array.from(time, (_, i) => (i % 1440 < 300 ? 20 * Math.exp(-(i % 1440) / 90) : 0));
  const drawn = Float32Array.from(time, (_, i) => ((i * 7) % 97 < 40 ? 6 : 1));
  const noisy = (of: (i: number) => number) =>
    Float32Array.from(time, (_, i) => of(i) + random.normal(0, 0.05));
  const amps = noisy((i) => shown(given[i]!, drawn[i]!));
  const timeline = timelineOf([
    { device: 'bms', time, channels: { battery_current: noisy((i) => given[i]! - drawn[i]!) } },
    { device: 'charger', time, channels: { source_current: noisy((i) => given[i]!) } },
  ]);
  const log: CounterLog = { device: 'monitor', time, amps, ampsAreItsOwn: true, volts: null, reading: null };
  const grid = { from: 0, step: MINUTE, count: COUNT, cuts: [] };
  return sharesByBms(system, timeline, log, grid, amps)![0]!;
}

test('all of a charger that the monitor sees, none of another that bypasses it', () => {
  expect(shareBy((given, drawn) => given - drawn).share).toBeCloseTo(1, 1);
  const past = shareBy((_, drawn) => -drawn);
  expect(past.share).toBeCloseTo(0, 1);
  expect(past.error).toBeLessThan(0.05);
});

test('a monitor that is turned, or scaled wrongly, shows so much of the charger as of the loads that nobody logged', () => {
  expect(shareBy((given, drawn) => drawn - given).share).toBeCloseTo(-1, 1);
  expect(shareBy((given, drawn) => 1.5 * (given - drawn)).share).toBeCloseTo(1.5, 1);
  // Both at once: it bypasses a monitor that shows half of the rest.
  expect(shareBy((_, drawn) => -0.5 * drawn).share).toBeCloseTo(0, 1);
});
