/** What flows through the half that the monitor does not see: drawn logs of a 24 V bank. */

import { MINUTE } from '../quantity/span';
import type { Source } from '../system/schema';
import type { Series } from './channels';
import { currentOfOtherHalf, unseenHalf } from './otherHalf';
import { timelineOf } from './timeline';

const time = Float64Array.from({ length: 60 }, (_, i) => i * MINUTE);
const log = (device: string, channel: 'battery_current' | 'source_current', amps: number): Series => ({
  device,
  time,
  channels: { [channel]: new Float32Array(60).fill(amps) },
});
const across = (id: string, half: Source['across']) => ({ id, across: half }) as Source;
const system = (sees: 'lower' | 'upper' | 'bank', sources: Source[]) =>
  ({ monitor: { sees }, sources }) as never;
const halves = [across('low', 'lower'), across('high', 'upper')];
// The loads draw 13 A: the lower half loses five, the upper ten.
const logs = [
  log('monitor', 'battery_current', -5),
  log('low', 'source_current', 8),
  log('high', 'source_current', 3),
];

test('the same loads, and its own charger instead of the other’s', () => {
  const found = currentOfOtherHalf(system('lower', halves), timelineOf(logs))!;
  expect(found.amps[30]).toBeCloseTo(-10, 5);
  // Seen from the upper half, that loses five, the lower one gains what its charger gives more.
  expect(currentOfOtherHalf(system('upper', halves), timelineOf(logs))!.amps[30]).toBeCloseTo(0, 5);
  // What charges the whole bank goes through both alike.
  const whole = [...halves, across('sun', 'bank')];
  expect(currentOfOtherHalf(system('lower', whole), timelineOf(logs))!.amps[30]).toBeCloseTo(-10, 5);
});

test('a current that is put right beforehand is taken instead of the logged one', () => {
  const seen = { time, amps: new Float32Array(60).fill(-4) };
  expect(currentOfOtherHalf(system('lower', halves), timelineOf(logs), seen)!.amps[30]).toBeCloseTo(-9, 5);
});

test('nothing where the whole bank is seen, where a charger of a half has no log, or where no half has one', () => {
  expect(unseenHalf(system('bank', halves))).toBeNull();
  expect(currentOfOtherHalf(system('bank', halves), timelineOf(logs))).toBeNull();
  expect(currentOfOtherHalf(system('lower', halves), timelineOf(logs.slice(0, 2)))).toBeNull();
  expect(currentOfOtherHalf(system('lower', [across('sun', 'bank')]), timelineOf(logs))).toBeNull();
});
