/** A charger of 40 A for a quarter of an hour every two hours, by the minute, and a monitor with a row in fifty minutes. */

import { timelineOf } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { betweenRows } from './betweenRows';
import type { CounterLog } from './counterLog';
import { trueCurrent } from './trueCurrent';

const COUNT = 4 * 1440;
const ROW = 50;
const time = Float64Array.from({ length: COUNT }, (_, i) => i * MINUTE);
const charger = Float32Array.from(time, (_, i) => (i % 120 >= 33 && i % 120 < 48 ? 40 : 0));
const timeline = timelineOf([{ device: 'charger', time, channels: { source_current: charger } }]);
const monitor = (of: (minute: number) => number): CounterLog => {
  const rows = time.filter((_, i) => i % ROW === 0);
  return {
    device: 'monitor',
    time: rows,
    amps: Float32Array.from(rows, (ms) => of(ms / MINUTE)),
    ampsAreItsOwn: true,
    volts: null,
    reading: null,
  };
};
/** 2 A are drawn all along. */
const moments = monitor((minute) => charger[minute]! - 2);
const hours = ROW / 60;
const ampHours = (amps: Float32Array) => amps.reduce((sum, one) => sum + one * hours, 0);
/** 40 A for 12 quarters of an hour a day, less 48 Ah, on each of four days. */
const TRUE = 4 * (120 - 48);

test('a monitor that writes the moment misses what comes and goes between its rows; the charger’s log has it', () => {
  expect(Math.abs(ampHours(moments.amps) - TRUE)).toBeGreaterThan(20);
  const amps = trueCurrent(timeline, moments, { gain: 1, unseen: [] });
  expect(Math.abs(ampHours(amps) - TRUE)).toBeLessThan(8);
});

test('a charger that the monitor does not see is added by its means', () => {
  const blind = monitor(() => -2);
  const unseen = [{ id: 'charger', kind: 'source' as const, share: 0, error: 0.01, steps: 20 }];
  expect(Math.abs(ampHours(trueCurrent(timeline, blind, { gain: 1, unseen })) - TRUE)).toBeLessThan(8);
});

test('the BMS’s log goes before all, by its means', () => {
  const bms = { device: 'bms', time, channels: { battery_current: charger.map((one) => one - 2) } };
  const both = timelineOf([...timeline.series, bms]);
  expect(Math.abs(ampHours(trueCurrent(both, moments, { gain: 1, unseen: [] })) - TRUE)).toBeLessThan(8);
});

test('nothing is added to a monitor that writes means, nor where it writes as often as the charger', () => {
  const averaged = monitor((minute) => {
    const around = charger.slice(Math.max(0, minute - ROW / 2), minute + ROW / 2);
    return around.reduce((a, b) => a + b, 0) / around.length - 2;
  });
  expect(betweenRows(timeline, averaged, averaged.amps, () => true)).toBeNull();
  const fine: CounterLog = { ...moments, time, amps: charger.map((one) => one - 2) };
  expect(betweenRows(timeline, fine, fine.amps, () => true)).toBeNull();
});
