/** A drawn charger that holds lithium at its float voltage for days and carries a load that comes and goes; by noon the sun lifts the bus. */

import { timelineOf } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import type { KnownSystem } from '../system/known';
import type { CounterLog } from './counterLog';
import { sharesAnswering } from './answering';

const grid = { from: 0, step: MINUTE, count: 6 * 24 * 60, cuts: [] };
const time = Float64Array.from({ length: grid.count }, (_, k) => k * MINUTE);
const column = (of: (minute: number) => number) => Float32Array.from(time, (_, k) => of(k));
const load = (minute: number) => (minute % 90 < 30 ? 2 : 0.4);
const isNoon = (minute: number) => minute % 1440 >= 720 && minute % 1440 < 840;
const charger = (minute: number) => (isNoon(minute) ? 0 : load(minute) + 0.05);
const sources = [{ id: 'mains' }];

function shares(shown: (minute: number) => number, { sources: all = sources, capacityAh = 60 } = {}) {
  const system = { bank: { capacityAh }, sources: all } as unknown as KnownSystem;
  const own = { device: 'mains', time, channels: { source_current: column(charger) } };
  const amps = column(shown);
  const log = { device: 'monitor', time, amps } as unknown as CounterLog;
  return sharesAnswering(system, timelineOf([own]), log, grid, amps);
}

test('a charger that carries the loads bypasses a monitor that shows them all the same', () => {
  const [one] = shares((minute) => -load(minute));
  expect(one).toMatchObject({ id: 'mains', kind: 'source', share: expect.closeTo(0, 2) });
  expect(one!.error).toBeLessThan(0.1);
  expect(one!.carriedHours).toBeCloseTo(6 * 22, -1);
});

test('where the monitor sees it, next to nothing flows while it holds', () => {
  expect(shares((minute) => charger(minute) - load(minute))).toEqual([]);
});

test('a monitor that counts the other way shows a charger turned over too: that is left to others', () => {
  expect(shares((minute) => (isNoon(minute) ? load(minute) : -charger(minute)))).toEqual([]);
});

test('a source without a log may be what the monitor misses; what moves too little tells nothing', () => {
  expect(shares((minute) => -load(minute), { sources: [...sources, { id: 'sun' }] })).toEqual([]);
  expect(shares((minute) => -load(minute), { capacityAh: 600 })).toEqual([]);
});
