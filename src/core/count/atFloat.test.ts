/** What the monitor shows while float keeps a full battery: drawn logs. */

import type { SourceCharging } from '../charge/types';
import { judgingGrid } from '../log/grid';
import { HOUR, MINUTE } from '../quantity/span';
import type { KnownSystem } from '../system/known';
import { agm, charge, lithium, stage } from '../../../tests/support/drawnCharges';
import { atFloatOf, mostZeroOf } from './atFloat';

const HOURS = 80;
const time = Float64Array.from({ length: HOURS * 60 }, (_, i) => i * MINUTE);
const grid = judgingGrid({ from: 0, to: HOURS * HOUR }, MINUTE, time);

const ampsOf = (shown: (hour: number) => number) =>
  Float32Array.from({ length: grid.count }, (_, i) => shown((i * grid.step) / HOUR));
/** One float over the whole log, by a charger that feeds the loads with so much. */
const floats = (feeds: number, full = true) =>
  [
    {
      charges: [
        {
          ...charge([stage({ stage: 'float', from: 0, to: HOURS * HOUR, usualSourceAmps: feeds })]),
          full,
        },
      ],
      knowsOwnAmps: true,
      knowsBatteryAmps: true,
    },
  ] as unknown as SourceCharging[];
const by = (bank: typeof agm | typeof lithium, shown: (hour: number) => number, feeds = 4) =>
  atFloatOf({ bank } as KnownSystem, floats(feeds), grid, ampsOf(shown));

test('a current that stays for days is steady, and is what every float shows', () => {
  const found = by(lithium, () => -0.3)!;
  expect(found.amps).toBeCloseTo(-0.3, 5);
  expect(found.steady).toBe(true);
  expect(found.hours).toBeGreaterThan(70);
});

test('what a battery gives until it has come down to its float is not', () => {
  expect(by(lithium, (hour) => -0.6 * Math.exp(-hour / 30))!.steady).toBe(false);
});

test('lithium under a charger that feeds nobody is not kept by it; lead is, and takes ever less', () => {
  expect(by(lithium, () => -0.3, 0)).toBeNull();
  expect(by(agm, (hour) => 0.4 + 0.4 * Math.exp(-hour / 20), 0)!.steady).toBe(false);
});

test('no zero is further off than what a float of lead shows, full or not; of lithium it says nothing', () => {
  const most = (bank: typeof agm | typeof lithium, shown: number) =>
    mostZeroOf(
      bank,
      floats(4, false),
      grid,
      ampsOf(() => shown),
    );
  // Of 100 Ah half a thousandth more.
  expect(most(agm, 0.3)).toBeCloseTo(0.35, 5);
  expect(most(agm, -2)).toBeCloseTo(2.05, 5);
  expect(most(lithium, 0.3)).toBeNull();
});
