/** Drawn steps of a known resistance. */

import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { seededRandom } from '../simulate/random';
import type { KnownBank } from '../system/known';
import { bankOhms, coldShare } from '../system/sag';
import { stepResistance } from './loadSteps';
import { isMoving } from './trend';

const bank = { chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 } as KnownBank;

/** A load of 5 A, and of 25 A for four minutes of every ten, behind so many ohms; meters of so coarse a step. */
function drawn(ohms: number, quantum = 0.01, celsius?: number): Series {
  const random = seededRandom(3);
  const count = 2000;
  const amps = (i: number) => (i % 10 < 4 ? -25 : -5);
  const round = (value: number) => Math.round(value / quantum) * quantum;
  return {
    device: 'monitor',
    time: Float64Array.from({ length: count }, (_, i) => i * 60_000),
    channels: {
      battery_current: Float32Array.from({ length: count }, (_, i) => amps(i)),
      battery_voltage: Float32Array.from({ length: count }, (_, i) =>
        round(12.7 - 0.0002 * i + ohms * amps(i) + random.normal(0, 0.005)),
      ),
      ...(celsius === undefined ? {} : { battery_temperature: new Float32Array(count).fill(celsius) }),
    },
  };
}

const found = (log: Series, held = 80) => stepResistance(bank, timelineOf([log]), () => held);

test.each([0.004, 0.01, 0.03])('%d ohm within a tenth, with a coarse meter too', (ohms) => {
  for (const quantum of [0.01, 0.1]) {
    const { ohms: seen, error, steps } = found(drawn(ohms, quantum))!;
    expect(steps).toBeGreaterThan(300);
    expect(Math.abs(seen / ohms - 1)).toBeLessThan(quantum > 0.05 ? 0.25 : 0.1);
    expect(Math.abs(seen - ohms)).toBeLessThan(4 * error + 0.0002);
  }
});

test('a good one of its size is 10 mΩ a 100 Ah block after minutes, less at once, more in the cold', () => {
  expect(bankOhms(bank)).toBeCloseTo(0.01, 6);
  expect(coldShare('agm', 25)).toBe(1);
  expect(coldShare('lfp', 0)).toBeCloseTo(Math.exp(0.75), 6);
  expect(coldShare('agm', NaN)).toBe(coldShare('agm', 20));
  const warm = found(drawn(0.01, 0.01, 25))!.usual;
  expect(found(drawn(0.01, 0.01, 0))!.usual / warm).toBeCloseTo(Math.exp(0.3), 6);
});

test('eight steps that are alike tell as much as many; eight that scatter tell nothing', () => {
  const few = (part: (step: number) => number): Series => {
    const amps = (i: number) => (i >= 20 && i < 60 && i % 10 < 4 ? -25 : -5);
    const volts = (i: number) => 12.7 + 0.05 * part(Math.floor(i / 10)) * (amps(i) + 5);
    const time = Float64Array.from({ length: 100 }, (_, i) => i * 60_000);
    const channels = {
      battery_current: Float32Array.from(time, (_, i) => amps(i)),
      battery_voltage: Float32Array.from(time, (_, i) => volts(i)),
    };
    return { device: 'monitor', time, channels };
  };
  const alike = found(few((step) => 1 + 0.01 * step))!;
  expect(alike.steps).toBe(8);
  expect(alike.ohms / 0.05).toBeCloseTo(1.035, 2);
  expect(found(few((step) => 0.4 * step))).toBeNull();
});

describe('over the log', () => {
  /** The same load for so many days, its resistance rising by so much in all. */
  const ageing = (days: number, growth: number, celsius?: (part: number) => number): Series => {
    const log = drawn(0.01);
    const count = log.time.length;
    const part = (i: number) => i / count;
    log.time = log.time.map(
      (_, i) => Math.floor(i / 10) * ((days * 86_400_000) / (count / 10)) + (i % 10) * 60_000,
    );
    log.channels.battery_voltage = log.channels.battery_voltage!.map((one, i) => {
      const amps = log.channels.battery_current![i]!;
      const cold = celsius ? coldShare('agm', celsius(part(i))) / coldShare('agm', 25) : 1;
      return one + 0.01 * amps * ((1 + growth * part(i)) * cold - 1);
    });
    if (celsius)
      log.channels.battery_temperature = Float32Array.from({ length: count }, (_, i) => celsius(part(i)));
    return log;
  };
  test('a resistance that rises by half in 30 days is seen, one that stays is not', () => {
    const { trend, ohms } = found(ageing(30, 0.5))!;
    expect(trend!.aMonth / 0.01).toBeGreaterThan(0.35);
    expect(trend!.aMonth / 0.01).toBeLessThan(0.65);
    expect(isMoving(trend!, ohms)).toBe(true);
    const same = found(ageing(30, 0))!;
    expect(isMoving(same.trend!, same.ohms)).toBe(false);
  });
  test('a month that grows cold is no ageing', () => {
    const cold = found(ageing(30, 0, (part) => 25 - 20 * part))!;
    expect(isMoving(cold.trend!, cold.ohms)).toBe(false);
  });
  test('a week is too short to say', () => {
    expect(found(ageing(7, 0.5))!.trend).toBeNull();
  });
});

test('a nearly empty battery tells nothing, nor does one without steps', () => {
  expect(found(drawn(0.01), 20)).toBeNull();
  const even = drawn(0.01);
  even.channels.battery_current!.fill(-5);
  expect(found(even)).toBeNull();
});

test('a charger that comes as a load goes, and holds the voltage with next to nothing, is no step of the battery', () => {
  const log = drawn(0.01);
  const { battery_current: amps, battery_voltage: volts } = log.channels as Record<string, Float32Array>;
  const held = { ...log, channels: { ...log.channels } };
  held.channels.battery_current = amps!.map((one) => (one > -10 ? -0.05 : one));
  held.channels.battery_voltage = volts!.map((one, i) => (amps![i]! > -10 ? 13.5 : one));
  expect(found(held)).toBeNull();
});
