/** Drawn: a charger that runs from eight to noon at a tenth of the capacity, and a load of a hundredth round the clock. */

import { timelineOf } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import type { KnownSystem } from '../system/known';
import type { CounterLog } from './counterLog';
import { whileIdle } from './whileIdle';

const grid = { from: 0, step: MINUTE, count: 4 * 1440, cuts: [] };
const time = Float64Array.from({ length: grid.count }, (_, k) => k * MINUTE);
const column = (of: (minute: number) => number) => Float32Array.from(time, (_, k) => of(k));
const given = (minute: number) => (minute % 1440 >= 480 && minute % 1440 < 720 ? 10 : 0);

function idle(shown: (minute: number) => number, sources = ['mains']) {
  const system = {
    bank: { capacityAh: 100 },
    sources: sources.map((id) => ({ id })),
  } as unknown as KnownSystem;
  const own = { device: 'mains', time, channels: { source_current: column(given) } };
  const log = { device: 'monitor', time } as unknown as CounterLog;
  return whileIdle(system, timelineOf([own]), log, grid, column(shown));
}

test('the loads are drawn while no charger gives, and a charger shows wholly', () => {
  const { hours, amps, share } = idle((minute) => given(minute) - 1)!;
  expect(hours).toBeCloseTo(80, 0);
  expect(amps).toBeCloseTo(-1, 2);
  expect(share).toBeCloseTo(1, 2);
});

test('a sensor that is turned round shows the loads as a charge, and the charger as drawn', () => {
  const { amps, share } = idle((minute) => 1 - given(minute))!;
  expect(amps).toBeCloseTo(1, 2);
  expect(share).toBeCloseTo(-1, 2);
});

test('nothing is told where a source has no log, or where next to nothing flows', () => {
  expect(idle((minute) => given(minute) - 1, ['mains', 'sun'])).toBeNull();
  expect(idle((minute) => given(minute) - 0.1)).toBeNull();
});
