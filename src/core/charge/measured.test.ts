/** What charging tells beside its stages: resistance of the path, compensation, limits, cold, refusals. Drawn, so that the answer is known. */

import { MINUTE } from '../quantity/span';
import { REPORTED_STAGES, type Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { coldEdgesOf } from './coldEdges';
import { coldIdleOf } from './coldIdle';
import { findLimits } from './limit';
import { nightOf } from './night';
import { pathDropOf } from './pathDrop';
import { refusalsOf } from './refusals';
import { slopeOf } from './slope';
import { AT } from './states';
import { resolutionOf } from '../log/resolution';
import type { ChargeView } from './view';
import { drawnView } from '../../../tests/support/drawnView';

const DAY_MINUTES = 1440;
const COUNT = 6 * DAY_MINUTES;
const BANK = { chemistry: 'agm' as const, cellsInSeries: 6, capacityAh: 100 };

/** Six days. @param at voltage, current, temperature and voltage at the battery, by minute of the day and day */
function viewOf(at: (minute: number, day: number) => [number, number, number?, number?]): ChargeView {
  const of = (which: number) => (minute: number) =>
    at(minute % DAY_MINUTES, Math.floor(minute / DAY_MINUTES))[which] ?? NaN;
  return drawnView({
    minutes: COUNT,
    volts: of(0),
    amps: of(1),
    celsius: of(2),
    batteryVolts: of(3),
    noise: 0.005,
    quantum: 0.001,
  });
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

test('a charger that is off, or gives all it has, tells its path by these two currents alone', () => {
  const dropOf = (amps: (minute: number) => number) =>
    pathDropOf(
      viewOf((minute) => [13 + 0.015 * amps(minute) + 0.02, amps(minute), 20, 13]),
      0.2,
    );
  const two = dropOf((minute) => (minute < 45 ? 140 : 0))!;
  expect(two.ohms).toBeCloseTo(0.015, 4);
  expect(two.overRange).toBe(false);
  expect(dropOf((minute) => 0.05 * minute)!.overRange).toBe(true);
  // One current alone tells nothing.
  expect(dropOf(() => 140)).toBeNull();
});

test('minutes in which the current jumps say nothing of the path: the two logs show another moment each', () => {
  // On for 45 minutes of each hundred; as it comes and goes, the minute’s mean of the current meets a voltage of before or after.
  const drop = pathDropOf(
    viewOf((minute) => {
      const into = minute % 100;
      const isMoving = into === 0 || into === 44;
      const amps = into > 44 ? 0 : isMoving ? 30 + 12 * (minute % 7) : 140;
      return [13 + (isMoving ? 0 : 0.015 * amps), amps, 20, 13];
    }),
    0.2,
  )!;
  expect(drop.ohms).toBeCloseTo(0.015, 4);
  expect(drop.overRange).toBe(false);
});

test('what a path loses counts in its busiest hours, though a battery that is seldom low asks for little all day', () => {
  // An hour and a half of bulk at 20 A on the first day alone; then 3 A.
  const drop = pathDropOf(
    viewOf((minute, day) => {
      const amps = day === 0 && minute < 90 ? 20 : 3 + 2 * Math.sin(minute / 100);
      return [13 + 0.05 * amps, amps, 20, 13];
    }),
    0.2,
  )!;
  expect(drop.amps).toBeCloseTo(20, 6);
  expect(Math.abs(drop.lostVolts - 1)).toBeLessThan(0.02);
});

test('no resistance is found where there is none, nor where the battery was not logged', () => {
  const even = pathDropOf(
    viewOf((minute) => [13, bell(minute), 20, 13]),
    0.2,
  )!;
  expect(Math.abs(even.lostVolts)).toBeLessThan(0.02);
  expect(pathDropOf({ ...viewOf((minute) => [13, bell(minute)]), batteryVolts: null }, 0.2)).toBeNull();
});

test('a battery whose log holds means of four hours tells no resistance of the path, though its voltage lags behind the charger’s', () => {
  // The bus rises by 1.5 V with the current of the day; at the battery each value is the mean of four hours.
  const bus = (minute: number) => 12.6 + 0.075 * bell(minute);
  const meanOf = (minute: number) => {
    const from = 240 * Math.floor(minute / 240);
    let sum = 0;
    for (let k = 0; k < 240; k += 10) sum += bus(from + k);
    return sum / 24;
  };
  const dropOf = (battery: (minute: number) => number, lost = 0) =>
    pathDropOf(
      viewOf((minute) => [bus(minute) + lost * bell(minute), bell(minute), 20, battery(minute)]),
      0.2,
    );
  expect(dropOf(meanOf)).toBeNull();
  expect(dropOf(bus, 0.04)!.ohms).toBeCloseTo(0.04, 3);
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
    nightOf({ ...viewOf(() => [13, 0]), grid: { from: 0, step: MINUTE, count: 1440, cuts: [] } }, 0.3),
  ).toBeNull();
});

test('a source that is full by ten, or says that it is awake, has no night in the afternoon', () => {
  const morning = viewOf((minute) => [13, minute < 600 ? bell(minute) : 0]);
  const night = nightOf(morning, 0.3)!;
  expect([night[5 * 60], night[13 * 60], night[20 * 60]]).toEqual([1, 0, 1]);
  const float = REPORTED_STAGES.indexOf('float');
  const reported = Float32Array.from({ length: COUNT }, (_, i) => (bell(i % DAY_MINUTES) > 0 ? float : 0));
  expect(nightOf({ ...morning, reported }, 0.3)![16 * 60]).toBe(0);
});

test('loads that switch faster than the log is written are not the noise of a meter', () => {
  const pulses = (every: number) =>
    Float32Array.from({ length: 2000 }, (_, i) => (i % every < every / 2 ? 4 : 12));
  expect(resolutionOf(pulses(2)).noise).toBeGreaterThan(1);
  // Half of the second differences are pulses, the others are none.
  const mixed = Float32Array.from({ length: 4000 }, (_, i) =>
    i % 10 < 6 ? 4 + 8 * (i % 2) : 4 + (i % 3) / 100,
  );
  expect(resolutionOf(mixed).noise).toBeLessThan(0.2);
});

test('a battery that its BMS has switched off, or another than the charger’s, tells no resistance', () => {
  const drop = (battery: (minute: number, amps: number) => number) =>
    pathDropOf(
      viewOf((minute) => [13 + 0.02 * bell(minute), bell(minute), 20, battery(minute, bell(minute))]),
      0.2,
    );
  expect(drop((minute) => (minute % 100 < 50 ? 13 : 0))!.ohms).toBeCloseTo(0.02, 3);
  expect(drop(() => 11.5)).toBeNull();
});

test('while the BMS lets nothing in, what the charger gives does not go to the battery', () => {
  // The loads' share of its current, at a bus that stands the higher the less they draw.
  const blocked = viewOf((minute) => [13.5 - 0.05 * bell(minute), bell(minute), 20, 13.2]);
  expect(pathDropOf(blocked, 0.2)!.ohms).toBeCloseTo(-0.05, 2);
  expect(pathDropOf({ ...blocked, allowed: new Float32Array(COUNT) }, 0.2)).toBeNull();
  expect(pathDropOf({ ...blocked, allowed: new Float32Array(COUNT).fill(1) }, 0.2)).not.toBeNull();
});

test('what moves within a meter’s quantum is not seen to move', () => {
  const path = new Uint8Array(COUNT).fill(AT.absorption);
  const view = viewOf((minute, day) => [14.4, 3, 18 + (day % 3) + minute / 1440]);
  const coarse = slopeOf({ ...view, voltQuantum: 0.1 }, path, BANK)!;
  expect(coarse.error).toBeGreaterThan(1);
  expect(slopeOf(view, path, BANK)!.error).toBeLessThan(0.3);
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

describe('days that are each as cold as the last', () => {
  // Coldest at three at night, 7 °C at three in the afternoon.
  const heat = (minute: number) => 2 + 5 * Math.cos(((minute - 900) / 720) * Math.PI);
  const edges = (given: (minute: number) => number, sun = true, toldC: number | null = null) =>
    coldEdgesOf(
      viewOf((minute) => [13.2, given(minute), heat(minute)]),
      0.3,
      14,
      sun,
      toldC,
    );
  test('a source that begins and ends at one temperature', () => {
    const cold = edges((minute) => (heat(minute) < 5 ? 0 : Math.max(5, bell(minute))))!;
    expect(cold.atC).toBeCloseTo(5, 0);
    expect(cold.begins).toBeGreaterThanOrEqual(3);
    expect(cold.ends).toBeGreaterThanOrEqual(2);
    expect(cold.hours).toBeGreaterThan(10);
  });
  test('a dawn comes slowly, and a clock goes by no temperature', () => {
    expect(edges(bell)).toBeNull();
    // A generator at nine, at 2 °C each day.
    const clock = (minute: number) => (minute >= 540 && minute < 660 ? 10 : 0);
    expect(edges(clock, false)).toBeNull();
    expect(edges(clock)!.atC).toBeCloseTo(2, 0);
    // The clock meets the limit that is set on every day, and misses another.
    expect(edges(clock, false, 2)).toMatchObject({ byClock: true });
    expect(edges(clock, false, 5)).toBeNull();
    // A mains charger at six in the evening, which the cold ends before eight.
    const evening = (minute: number) => (minute >= 1080 && heat(minute) >= 3.6 ? 10 : 0);
    expect(edges(evening, false, 3.5)).toMatchObject({ begins: 0 });
    expect(edges(evening, false, 3.5)!.ends).toBeGreaterThanOrEqual(3);
    expect(edges(evening, false)).toBeNull();
    expect(edges(evening, false, 6)).toBeNull();
    // A mains charger that is there all day, and gives from 5 °C up to 5 °C.
    expect(edges((minute) => (heat(minute) < 5 ? 0 : 10), false)!.atC).toBeCloseTo(5, 0);
  });
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
  const slope = slopeOf(view, path, BANK)!;
  expect(Math.abs(slope.mvPerCell + 4)).toBeLessThan(0.1);
  expect(slope.error).toBeLessThan(0.3);
  expect(slope.to - slope.from).toBeGreaterThan(8);
  // A battery that its BMS shuts off is held by nobody; a bus that stands above it is.
  const shut = { ...view, allowed: new Float32Array(COUNT) };
  expect(slopeOf(shut, path, BANK)).toBeNull();
  const apart = { ...shut, batteryVolts: view.volts.map((one) => one - 0.4) };
  expect(slopeOf(apart, path, BANK)!.mvPerCell).toBeCloseTo(slope.mvPerCell, 6);
  expect(slopeOf(view, path.fill(AT.off), BANK)).toBeNull();
});

test('a voltage at which the battery carries the loads is held by no charger, and tells no compensation', () => {
  // As the battery empties by night it stands lower, and grows colder as well.
  const view = viewOf((minute) => [13.6 - minute / 2880, 0, 22 - minute / 360]);
  const path = new Uint8Array(COUNT).fill(AT.float);
  expect(slopeOf(view, path, BANK)!.mvPerCell).toBeGreaterThan(10);
  const given = { ...view, batteryAmps: new Float32Array(COUNT).fill(-2) };
  expect(slopeOf(given, path, BANK)).toBeNull();
  expect(slopeOf({ ...given, batteryNoise: 1 }, path, BANK)).not.toBeNull();
});

test('lithium that stands above its float is held by no charger; one that the charger carries the loads of is', () => {
  const float = (amps: number) => viewOf((_, day) => [13.5 - day / 20, amps, 18 - day]);
  const path = new Uint8Array(COUNT).fill(AT.float);
  const lithium = { ...BANK, chemistry: 'lfp' as const };
  expect(slopeOf(float(0.1), path, lithium)).toBeNull();
  expect(slopeOf(float(2), path, lithium)!.mvPerCell).toBeGreaterThan(5);
  expect(slopeOf(float(0.1), path, BANK)!.mvPerCell).toBeGreaterThan(5);
  // Where only the battery's own current was logged the charger may carry the loads.
  expect(slopeOf({ ...float(0.1), ampsAreBattery: true }, path, lithium)).not.toBeNull();
  // A pump that the battery feeds now and then shows that nobody does, though between its runs next to nothing flows.
  const rests = viewOf((minute, day) => [13.5 - day / 20, minute % 240 < 10 ? -10 : -0.05, 18 - day]);
  expect(slopeOf({ ...rests, ampsAreBattery: true }, path, lithium)).toBeNull();
});

test('a refusal of the BMS is told with the cell that stood highest as it began', () => {
  const time = Float64Array.from({ length: 600 }, (_, i) => i * MINUTE);
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
  expect(refusalsOf(timelineOf([log]), 'bms_discharge_allowed')).toBeNull();
  expect(
    refusalsOf(timelineOf([{ ...log, channels: { battery_voltage: log.channels.battery_voltage! } }])),
  ).toBeNull();
});
