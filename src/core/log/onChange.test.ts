/** Four days of a battery, logged every ten seconds, on change, and with pieces missing: only what is written on change is held. */

import { seededRandom } from '../simulate/random';
import { HOUR, MINUTE } from '../quantity/span';
import type { Series } from './channels';
import { integrate } from './grid';
import { heldBetween } from './onChange';

const STEP = 10_000;
const COUNT = 4 * 8640;
const random = seededRandom(5);
/** Half an ampere by night, 20 A for ten minutes each hour of the day; meters with their noise. */
const amps = Float32Array.from({ length: COUNT }, (_, i) => {
  const minute = ((i * STEP) / MINUTE) % 1440;
  const on = minute > 480 && minute % 60 < 10 ? 20 : 0;
  return Math.round(100 * (-0.5 - on + random.normal(0, 0.03))) / 100;
});
const volts = amps.map((one) => Math.round(100 * (12.8 + 0.02 * one + random.normal(0, 0.003))) / 100);
const every: Series = {
  device: 'monitor',
  time: Float64Array.from({ length: COUNT }, (_, i) => i * STEP),
  channels: { battery_voltage: volts, battery_current: amps },
};
const only = (keeps: (i: number) => boolean): Series => {
  const rows = [...amps.keys()].filter(keeps);
  return {
    ...every,
    time: Float64Array.from(rows, (i) => every.time[i]!),
    channels: {
      battery_voltage: Float32Array.from(rows, (i) => volts[i]!),
      battery_current: Float32Array.from(rows, (i) => amps[i]!),
    },
  };
};
/** A row when the current has moved by 0.3 A, or a quarter of an hour has gone by. */
const changes = (): Series => {
  let last = 0;
  return only((i) => {
    const moved = i === 0 || Math.abs(amps[i]! - amps[last]!) > 0.3 || (i - last) * STEP >= 15 * MINUTE;
    if (moved) last = i;
    return moved;
  });
};
const days = { from: 0, to: COUNT * STEP };
const drawn = ({ time, channels }: Series): number => integrate(time, channels.battery_current!, days).out;

test('what is written on change counts as what is written every ten seconds', () => {
  const log = changes();
  expect(log.time.length).toBeLessThan(COUNT / 20);
  const held = heldBetween(log)!;
  expect(Math.abs(drawn(held) / drawn(every) - 1)).toBeLessThan(0.03);
  // Straight on from row to row it would be off by far more.
  expect(Math.abs(drawn(log) / drawn(every) - 1)).toBeGreaterThan(0.1);
});

test('a sign of life that seldom comes is one all the same', () => {
  // Clouds: the current moves most of the time, and one row in eight is a sign of life that says what the row before said.
  const sun = Float32Array.from({ length: COUNT }, (_, i) =>
    (i * STEP) % (6 * HOUR) < 4 * HOUR
      ? Math.round(10 * (8 + 4 * Math.sin(i / 9) + 3 * Math.sin(i / 23))) / 10
      : 0,
  );
  const rows: number[] = [0];
  for (let i = 1; i < COUNT; i++) {
    const last = rows.at(-1)!;
    if (Math.abs(sun[i]! - sun[last]!) > 2.5 || (i - last) * STEP >= 15 * MINUTE) rows.push(i);
  }
  const log: Series = {
    device: 'sun',
    time: Float64Array.from(rows, (i) => i * STEP),
    channels: { source_current: Float32Array.from(rows, (i) => sun[i]!) },
  };
  const signs = rows.filter((row, k) => k > 0 && (row - rows[k - 1]!) * STEP >= 15 * MINUTE).length;
  expect(signs).toBeLessThan(0.15 * rows.length);
  const held = heldBetween(log)!;
  const given = (time: Float64Array, amps: Float32Array) => integrate(time, amps, days).in;
  const truth = given(every.time, sun);
  expect(Math.abs(given(held.time, held.channels.source_current!) / truth - 1)).toBeLessThan(0.05);
});

test('the rows that were written are all there, and those between say what the row before said', () => {
  const log = changes();
  const held = heldBetween(log)!;
  let row = 0;
  held.time.forEach((ms, i) => {
    if (log.time[row + 1]! <= ms) row++;
    expect(held.channels.battery_current![i]).toBe(log.channels.battery_current![row]);
  });
  expect(row).toBe(log.time.length - 1);
});

test('what one row leaves out is what it was', () => {
  const log = changes();
  const seldom = log.channels.battery_voltage!.map((one, i) => (i % 3 ? NaN : one));
  const held = heldBetween({ ...log, channels: { ...log.channels, battery_voltage: seldom } })!;
  expect(held.channels.battery_voltage!.some(Number.isNaN)).toBe(false);
});

test('nothing holds over an hour without a row', () => {
  const log = changes();
  const from = log.time.findIndex((ms) => ms > 10 * HOUR);
  const silent: Series = {
    ...log,
    time: log.time.map((ms, i) => (i >= from ? ms + 5 * HOUR : ms)),
  };
  const held = heldBetween(silent)!;
  const [last, next] = [silent.time[from - 1]!, silent.time[from]!];
  expect([...held.time].filter((ms) => ms > last && ms < next)).toEqual([]);
});

test.each<[string, Series]>([
  ['every ten seconds', every],
  ['with a row in seven lost', only((i) => (i * 7919) % 7 > 0)],
  ['with hours lost', only((i) => i % 1000 < 700)],
  ['with pieces lost all day long', only((i) => i % 60 < 40)],
])('a log %s is not written on change', (_, log) => {
  expect(heldBetween(log)).toBeNull();
});
