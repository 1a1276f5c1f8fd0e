import { mean } from '../quantity/numbers';
import { seededRandom } from '../simulate/random';
import type { KnownSystem } from '../system/known';
import type { Grid } from '../log/grid';
import { timelineOf } from '../log/timeline';
import { againstBms } from './againstBms';
import type { CounterLog } from './counterLog';

const MINUTE = 60_000;
const COUNT = 4 * 1440;
const START = Date.UTC(2026, 9, 1);
const system = { bank: { capacityAh: 100 }, timeZone: 'UTC' } as KnownSystem;

/** Four days by the minute: what the BMS sees, and what the monitor shows beside it. */
function compare(
  apart: (minute: number, normal: () => number) => number,
  timeZone = 'UTC',
  { gain = 1, late = 0 } = {},
) {
  const random = seededRandom(5);
  const time = Float64Array.from({ length: COUNT }, (_, i) => START + i * MINUTE);
  const bms = Float32Array.from(time, (_, i) => (i % 1440 < 600 ? -4 - (i % 50 < 10 ? 8 : 0) : 6));
  const amps = bms.map((_, i) => gain * bms[Math.max(0, i - late)]! + apart(i, () => random.normal(0, 1)));
  const timeline = timelineOf([{ device: 'bms', time, channels: { battery_current: bms } }]);
  const log: CounterLog = { device: 'monitor', time, amps, ampsAreItsOwn: true, volts: null, reading: null };
  const grid: Grid = { from: START, step: MINUTE, count: COUNT, cuts: [] };
  return againstBms(timeline, log, grid, amps, { ...system, timeZone })!;
}

test('a zero error is there all the time, however much the meters scatter', () => {
  for (const scatter of [0.02, 0.3, 1]) {
    const found = compare((_, normal) => 0.6 + scatter * normal());
    expect(found.offsetA).toBeCloseTo(0.6, 1);
    expect(found.slope).toBeCloseTo(1, 1);
    expect(found.comesAndGoes).toBeLessThan(0.1);
    expect(found.hours).toBeNull();
  }
});

test('a load that runs by night comes and goes, and its hours are found, across midnight and by the local clock', () => {
  const night = (minute: number, normal: () => number) =>
    (minute % 1440 < 6 * 60 || minute % 1440 >= 20 * 60 ? 2 : 0) + 0.1 * normal();
  const found = compare(night);
  // Levels of day and night differ by it, moves do not: it is no ratio.
  expect(found.slope).toBeCloseTo(1, 1);
  expect(found.comesAndGoes).toBeGreaterThan(0.4);
  expect(found.hours!.from).toBeGreaterThanOrEqual(20);
  expect(found.hours!.to).toBeLessThanOrEqual(6);
  const untilCharged = compare((minute, normal) => (minute % 1440 < 600 ? 2 : 0) + 0.1 * normal());
  expect(untilCharged.slope).toBeCloseTo(1, 1);
  expect(compare(night, 'Asia/Tokyo').hours!.from).toBe((found.hours!.from + 9) % 24);
});

test('a load that switches by the hour comes and goes, at no hours of the day', () => {
  const found = compare((minute, normal) => (minute % 60 < 25 ? 2 : 0) + 0.1 * normal());
  expect(found.comesAndGoes).toBeGreaterThan(0.3);
  expect(found.hours).toBeNull();
});

test('a load that always draws, now little, now much, is no zero error either', () => {
  const found = compare((minute, normal) => (minute % 50 < 12 ? 6 : 0.9) + 0.05 * normal());
  expect(found.comesAndGoes).toBeGreaterThan(0.4);
});

test('a shunt of another size shows twice the current; also where the two meters move a quarter of an hour apart', () => {
  for (const late of [0, 15])
    expect(compare((_, normal) => 0.1 * normal(), 'UTC', { gain: 2, late }).slope).toBeGreaterThan(1.7);
});

test('a row in fifty minutes is held against what the BMS saw at its moment', () => {
  const random = seededRandom(7);
  const time = Float64Array.from({ length: 14 * 144 }, (_, i) => START + i * 10 * MINUTE);
  // Clouds by day, a load by night that the monitor does not see.
  const isDay = (ms: number) => ((ms - START) / MINUTE) % 1440 >= 600;
  const bms = Float32Array.from(time, (ms) => (isDay(ms) ? 20 * random.next() : -5));
  const log: CounterLog = {
    device: 'monitor',
    time: time.filter((_, i) => i % 5 === 0),
    amps: bms.map((one, i) => (isDay(time[i]!) ? one : 0)).filter((_, i) => i % 5 === 0),
    ampsAreItsOwn: true,
    volts: null,
    reading: null,
  };
  const grid: Grid = { from: START, step: 50 * MINUTE, count: log.time.length, cuts: [] };
  const timeline = timelineOf([{ device: 'bms', time, channels: { battery_current: bms } }]);
  const found = againstBms(timeline, log, grid, log.amps, system)!;
  expect(found.slope).toBeCloseTo(1, 1);
  expect(found.offsetA).toBeGreaterThan(1);
  // A monitor that writes the mean of the fifty minutes is held against the mean.
  const means = log.time.map((_, i) => mean([...bms.subarray(5 * i, 5 * i + 5)]));
  const averaged = { ...log, amps: Float32Array.from(means) };
  const beside = againstBms(timeline, averaged, grid, averaged.amps, system)!;
  expect(beside.slope).toBeCloseTo(1, 2);
  expect(Math.abs(beside.offsetA)).toBeLessThan(0.05);
});

test('a charger that runs for half an hour a day tells the ratio, though the current hardly moves otherwise', () => {
  const time = Float64Array.from({ length: COUNT }, (_, i) => START + i * MINUTE);
  const bms = Float32Array.from(time, (_, i) => (i % 1440 >= 600 && i % 1440 < 630 ? 40 : -0.5));
  const amps = bms.map((one) => -one);
  const timeline = timelineOf([{ device: 'bms', time, channels: { battery_current: bms } }]);
  const log: CounterLog = { device: 'monitor', time, amps, ampsAreItsOwn: true, volts: null, reading: null };
  const found = againstBms(
    timeline,
    log,
    { from: START, step: MINUTE, count: COUNT, cuts: [] },
    amps,
    system,
  )!;
  expect(found.slope).toBeCloseTo(-1, 2);
  expect(found.slopeError).toBeLessThan(0.1);
});
