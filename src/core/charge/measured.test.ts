/** What charging tells beside its stages: resistance of the path, compensation, limits, cold, refusals. Drawn, so that the answer is known. */

import { MINUTE } from '../quantity/span';
import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { seededRandom } from '../simulate/random';
import { coldIdleOf } from './coldIdle';
import { findLimits } from './limit';
import { nightOf } from './night';
import { pathDropOf } from './pathDrop';
import { refusalsOf } from './refusals';
import { slopeOf } from './slope';
import { AT } from './states';
import type { ChargeView } from './view';

const START = Date.UTC(2026, 5, 1);
const DAYS = 6;
const COUNT = DAYS * 1440;
const random = seededRandom(77);

/** @param at voltage, current, temperature and voltage at the battery, by minute of the day and day */
function viewOf(at: (minute: number, day: number) => [number, number, number?, number?]): ChargeView {
  const volts = new Float32Array(COUNT);
  const amps = new Float32Array(COUNT);
  const celsius = new Float32Array(COUNT).fill(NaN);
  const batteryVolts = new Float32Array(COUNT).fill(NaN);
  for (let i = 0; i < COUNT; i++) {
    const [v, a, t = NaN, b = NaN] = at(i % 1440, Math.floor(i / 1440));
    volts[i] = v + random.normal(0, 0.005);
    amps[i] = a + random.normal(0, 0.03);
    celsius[i] = t;
    batteryVolts[i] = b + random.normal(0, 0.005);
  }
  return {
    source: 'charger',
    grid: { from: START, step: MINUTE, count: COUNT, cuts: [] },
    volts,
    amps,
    ampsAreBattery: false,
    batteryAmps: null,
    batteryVolts,
    celsius,
    drift: null,
    allowed: null,
    reported: null,
    blocks: 1,
    others: null,
    batteryNoise: 0,
    voltNoise: 0.006,
    ampNoise: 0.03,
    voltQuantum: 0.01,
    log: { time: new Float64Array(0), volts, amps },
  };
}

const bell = (minute: number) => Math.max(0, 20 * Math.sin(((minute - 360) / 720) * Math.PI));

test('resistance of the path is the slope of the difference, and what is left at no current the meters’', () => {
  const drop = pathDropOf(
    viewOf((minute) => {
      const amps = bell(minute);
      return [13 + 0.02 * amps + 0.08, amps, 20, 13];
    }),
    0.2,
  )!;
  // Drawn with 20 mΩ and meters 0.08 V apart.
  expect(drop.ohms).toBeCloseTo(0.02, 3);
  expect(drop.offsetVolts).toBeCloseTo(0.08, 2);
  expect(Math.abs(drop.lostVolts - 0.4)).toBeLessThan(0.02);
  expect(Math.abs(drop.lostWatts - 8)).toBeLessThan(0.5);
});

test('no resistance is found where there is none, nor where the battery was not logged', () => {
  const even = pathDropOf(
    viewOf((minute) => [13, bell(minute), 20, 13]),
    0.2,
  )!;
  expect(Math.abs(even.lostVolts)).toBeLessThan(0.02);
  expect(pathDropOf({ ...viewOf((minute) => [13, bell(minute)]), batteryVolts: null }, 0.2)).toBeNull();
});

test('a current at which the voltage goes through a whole range is a limit; one at two held voltages is none', () => {
  const bulk = findLimits(
    viewOf((minute) => (minute < 400 ? [12.4 + minute / 250, 15] : [13.6, 2])),
    0.2,
  );
  expect(bulk.map((one) => Math.round(one.amps))).toEqual([15]);
  expect(
    findLimits(
      viewOf((minute) => (minute < 700 ? [14.4, 5] : [13.6, 5])),
      0.2,
    ),
  ).toEqual([]);
});

test('night is when a source never gives, on no day', () => {
  const night = nightOf(
    viewOf((minute) => [13, bell(minute)]),
    0.3,
  )!;
  expect([night[0], night[12 * 60], night[23 * 60]]).toEqual([1, 0, 1]);
  expect(
    nightOf({ ...viewOf(() => [13, 0]), grid: { from: START, step: MINUTE, count: 1440, cuts: [] } }, 0.3),
  ).toBeNull();
});

test('a source that gives nothing in the cold is seen against the hours at which it gives when it is warm', () => {
  const cold = coldIdleOf(
    viewOf((minute, day) => {
      const celsius = day % 2 === 0 ? 2 : 9;
      return [13, celsius < 5 ? 0 : bell(minute), celsius];
    }),
    0.3,
    14,
  )!;
  expect(cold.belowC).toBeGreaterThan(2);
  expect(cold.gaveBelow).toBeLessThan(0.05);
  expect(cold.gaveAbove).toBeGreaterThan(0.9);
  expect(
    coldIdleOf(
      viewOf((minute, day) => [13, bell(minute), day % 2 === 0 ? 2 : 9]),
      0.3,
      14,
    ),
  ).toBeNull();
});

test('compensation is the slope of held voltages on their temperature, absorption and float each about its own mean', () => {
  const heat = (minute: number, day: number) => 10 + 2 * day + 3 * Math.sin((minute / 1440) * 2 * Math.PI);
  // −4 mV per °C and cell over six cells, half of each day at 14.4 V, half at 13.6 V.
  const view = viewOf((minute, day) => [
    (minute < 720 ? 14.4 : 13.6) - 0.024 * (heat(minute, day) - 25),
    5,
    heat(minute, day),
  ]);
  const path = Uint8Array.from({ length: COUNT }, (_, i) => (i % 1440 < 720 ? AT.absorption : AT.float));
  const slope = slopeOf(view, path, 6)!;
  expect(Math.abs(slope.mvPerCell + 4)).toBeLessThan(0.1);
  expect(slope.error).toBeLessThan(0.3);
  expect(slope.to - slope.from).toBeGreaterThan(8);
  expect(slopeOf(view, path.fill(AT.off), 6)).toBeNull();
});

test('a refusal of the BMS is told with the cell that stood highest as it began', () => {
  const time = Float64Array.from({ length: 600 }, (_, i) => START + i * MINUTE);
  const refused = (i: number) => i >= 200 && i < 260;
  const log: Series = {
    device: 'bms',
    time,
    channels: {
      bms_charge_allowed: Float32Array.from(time, (_, i) => (refused(i) ? 0 : 1)),
      battery_voltage: new Float32Array(600).fill(13.9),
      battery_temperature: new Float32Array(600).fill(17),
      cell_01_voltage: new Float32Array(600).fill(3.4),
      cell_02_voltage: Float32Array.from(time, (_, i) => (Math.abs(i - 200) < 3 ? 3.66 : 3.4)),
      cell_03_voltage: new Float32Array(600).fill(3.4),
    },
  };
  const [one, ...others] = refusalsOf(timelineOf([log]))!;
  expect(others).toEqual([]);
  expect([(one!.to - one!.from) / MINUTE, one!.highestCell, one!.celsius]).toEqual([60, '2', 17]);
  expect(one!.highestV).toBeCloseTo(3.66, 2);
  expect(one!.meanV).toBeCloseTo((3.66 + 3.4 + 3.4) / 3, 2);
  expect(
    refusalsOf(timelineOf([{ ...log, channels: { battery_voltage: log.channels.battery_voltage! } }])),
  ).toBeNull();
});
