import { judgingGrid } from '../log/grid';
import { MINUTE } from '../quantity/span';
import { batteryOnGrid } from './batteryOnGrid';

const DAY = 1440;
/** Twenty minutes at 30 A every four hours, then 4 A for an hour; the loads draw 3 A all the time. */
const given = (minute: number) => {
  const into = (minute + 15) % 240;
  return into < 20 ? 30 : into < 80 ? 4 : 0;
};
const LOADS = 3;

const log = (every: number, of: (minute: number) => number) => {
  const time = Float64Array.from({ length: DAY / every }, (_, i) => i * every * MINUTE);
  return { time, amps: Float32Array.from(time, (ms) => of(ms / MINUTE)) };
};
const source = log(2, given);
const series = { device: 'charger', time: source.time, channels: { source_current: source.amps } };
const grid = judgingGrid({ from: 0, to: (DAY - 2) * MINUTE }, 2 * MINUTE, source.time);
/** A into the battery at a minute, by a log of the battery with a row in so many minutes. */
const seenAt = (minute: number, every: number, of: (minute: number) => number) =>
  batteryOnGrid(log(every, of), series, grid, 2)[minute / 2]!;

test('what the charger gives between two rows of the battery is in its current', () => {
  // Rows of fifty minutes: from 225 to 245 it is charged with 27 A, and no row sees it.
  expect(seenAt(230, 50, (minute) => given(minute) - LOADS)).toBeCloseTo(27, 0);
  expect(seenAt(270, 50, (minute) => given(minute) - LOADS)).toBeCloseTo(1, 0);
});

test('rows that are means of the time around them are held against means', () => {
  const mean = (minute: number) => {
    let sum = 0;
    for (let at = minute - 25; at < minute + 25; at++) sum += given((at + DAY) % DAY) / 50;
    return sum - LOADS;
  };
  expect(seenAt(230, 50, mean)).toBeGreaterThan(24);
});

test('left as it was written where it has as many rows, and where it does not move with the charger', () => {
  expect(seenAt(230, 4, () => -LOADS)).toBe(-LOADS);
  // Another half of the bank, charged by something else.
  expect(seenAt(230, 50, (minute) => (minute % 100 < 50 ? 8 : -LOADS))).toBeLessThan(9);
});

test('a current that moves with the loads, not with the charger, is not known where the voltage is held between two rows', () => {
  // On float the charger gives what the loads draw, and the battery takes next to nothing; it is absorbed for twenty minutes at 225.
  const volts = source.time.map((ms) => (given(ms / MINUTE) === 30 ? 28.8 : 27.2));
  const held = { ...series, channels: { ...series.channels, source_voltage: Float32Array.from(volts) } };
  const battery = log(50, (minute) => (minute % 100 < 50 ? 8 : 0.1));
  const amps = batteryOnGrid(battery, held, grid, 2);
  expect(amps[230 / 2]).toBeNaN();
  expect(amps[276 / 2]).toBeCloseTo(8 - (7.9 * 24) / 50, 0);
});
