/** A drawn log of a charger that bypasses the monitor: the battery rises for two hours, is held for four, and is drawn on. */

import { agm } from '../../../tests/support/drawnCharges';
import { timelineOf } from '../log/timeline';
import { HOUR, MINUTE } from '../quantity/span';
import type { KnownSystem } from '../system/known';
import { besideUnseen, blindOf } from './blind';
import { throughOf } from './through';
import { unseenOf } from './unseen';

const grid = { from: 0, step: 5 * MINUTE, count: 48 * 12, cuts: [] };
const hourOf = (cell: number) => ((cell * grid.step) / HOUR) % 24;
const volts = Float32Array.from({ length: grid.count }, (_, cell) => {
  const hour = hourOf(cell);
  return hour < 6 || hour >= 12 ? 12.4 : hour < 8 ? 13 + (hour - 6) * 0.6 : 14.2;
});
const amps = new Float32Array(grid.count).fill(-2);

/** What it gives an hour, and the deviations at 3, a quarter past 6, 7, 10 and 20 o’clock. */
function at(ratedA: number | undefined, isLogged = false): number[] {
  const system = { bank: agm, sources: [{ id: 'charger', ratedA }] } as unknown as KnownSystem;
  const log = { device: 'charger', time: Float64Array.of(0, HOUR), channels: { source_current: amps } };
  const unseen = unseenOf(system, grid, amps, volts);
  const blind = blindOf(system, timelineOf(isLogged ? [log] : []), { grid, volts }, unseen, grid);
  return [
    blind.gives[30.25 * 12]!,
    ...[3, 6.25, 7, 10, 20].map((hour) => blind.deviation[(24 + hour) * 12]!),
  ];
}

const near = (...values: number[]) => values.map((one) => expect.closeTo(one));

test('while it holds the voltage it makes up for the loads; on its way there it may give what it is rated for', () => {
  expect(agm.capacityAh).toBe(100);
  expect(at(10)).toEqual(near(0.05, 0, 0.08, 0.08, 0.05, 0));
  expect(at(3)).toEqual(near(0.015, 0, 0.05, 0.05, 0.05, 0));
  expect(at(90)).toEqual(near(0.125, 0, 0.2, 0.2, 0.05, 0));
  // A rating that nobody knows.
  expect(at(undefined)).toEqual(near(0.075, 0, 0.12, 0.12, 0.05, 0));
});

test('what a charger with a log gives is known; then only the hours at which the voltage stands are open', () => {
  expect(at(10, true)).toEqual(near(0, 0, 0, 0.05, 0.05, 0));
});

test('held for long, a battery takes next to nothing more', () => {
  const always = new Float32Array(grid.count).fill(13.6);
  const system = { bank: agm, sources: [] } as unknown as KnownSystem;
  const unseen = unseenOf(system, grid, amps, always);
  const blind = blindOf(system, timelineOf([]), { grid, volts: always }, unseen, grid);
  expect([1, 5, 7, 40].map((hour) => blind.deviation[hour * 12])).toEqual([0.05, 0.05, 0.005, 0.005]);
});

test('the loads draw on the charger that is not seen, not on the battery', () => {
  const time = Float64Array.from({ length: grid.count }, (_, cell) => cell * grid.step);
  const through = throughOf(time, amps, grid);
  const deviation = Float64Array.from({ length: grid.count }, (_, cell) => (hourOf(cell) < 6 ? 0 : 0.05));
  const gives = deviation.map((one, cell) => (hourOf(cell) < 8 ? one / 2 : 0));
  const { in: into, out, hours } = besideUnseen(through, { gives, deviation }, 100);
  expect([3, 7, 9].map((hour) => into[hour * 12])).toEqual([0, expect.closeTo(2.5 / 12), 0]);
  expect([3, 9].map((hour) => out[hour * 12])).toEqual([expect.closeTo(2 / 12), 0]);
  expect([3, 9].map((hour) => hours[hour * 12])).toEqual([expect.closeTo(1 / 12), 0]);
});
