/** What the monitor shows while float keeps a full battery: drawn logs. */

import type { SourceCharging } from '../charge/types';
import { judgingGrid } from '../log/grid';
import { HOUR, MINUTE } from '../quantity/span';
import type { KnownSystem } from '../system/known';
import { agm, charge, lithium, stage } from '../../../tests/support/drawnCharges';
import { atFloatOf } from './atFloat';

const HOURS = 80;
const time = Float64Array.from({ length: HOURS * 60 }, (_, i) => i * MINUTE);
const grid = judgingGrid({ from: 0, to: HOURS * HOUR }, MINUTE, time);

/** One float over the whole log, by a charger that feeds the loads with so much. */
const by = (bank: typeof agm | typeof lithium, shown: (hour: number) => number, feeds = 4) => {
  const float = stage({ stage: 'float', from: 0, to: HOURS * HOUR, usualSourceAmps: feeds });
  const charging = [
    { charges: [{ ...charge([float]), full: true }], knowsOwnAmps: true },
  ] as unknown as SourceCharging[];
  const amps = Float32Array.from({ length: grid.count }, (_, i) => shown((i * grid.step) / HOUR));
  return atFloatOf({ bank } as KnownSystem, charging, grid, amps);
};

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
