/** The voltage of a half: logged by itself, as the whole beside its middle, or not at all. */

import type { KnownSystem } from '../system/known';
import { chargeViews } from '../charge/view';
import { timelineOf } from './timeline';
import { halfVolts } from './halfVolts';

const MINUTE = 60_000;
const grid = { from: 0, step: MINUTE, count: 30, cuts: [] };
const time = Float64Array.from({ length: 30 }, (_, i) => i * MINUTE);
const all = (value: number) => new Float32Array(30).fill(value);
const middle = timelineOf([
  { device: 'monitor', time, channels: { battery_voltage: all(26.4), midpoint_voltage: all(13.1) } },
]);

const system = (sees: 'lower' | 'upper' | 'bank') =>
  ({
    bank: { chemistry: 'agm', cellsInSeries: 12, capacityAh: 100, chargeVolts: { min: 28.4, max: 29.2 } },
    sources: [{ id: 'low', across: 'lower' }],
    monitor: { method: 'shunt', sees },
    loads: [],
  }) as unknown as KnownSystem;

test('the half by itself stays, the whole is parted at its middle, and without a middle it tells nothing', () => {
  const none = timelineOf([]);
  expect(halfVolts(all(13.2), 'lower', system('lower'), none, grid)![5]).toBeCloseTo(13.2, 4);
  expect(halfVolts(all(13.2), 'lower', system('upper'), none, grid)).toBeNull();
  expect(halfVolts(all(26.4), 'lower', system('bank'), middle, grid)![5]).toBeCloseTo(13.1, 4);
  expect(halfVolts(all(26.4), 'upper', system('bank'), middle, grid)![5]).toBeCloseTo(13.3, 4);
  expect(halfVolts(all(26.4), 'lower', system('lower'), none, grid)).toBeNull();
});

test('beside the charger of a half the monitor’s voltage of the whole bank is never taken for the half’s', () => {
  const charger = { device: 'low', time, channels: { source_voltage: all(13.4), source_current: all(5) } };
  const monitor = (volts: number, midpoint?: number) => ({
    device: 'monitor',
    time,
    channels: {
      battery_voltage: all(volts),
      battery_current: all(4),
      ...(midpoint === undefined ? {} : { midpoint_voltage: all(midpoint) }),
    },
  });
  const seen = (sees: 'lower' | 'upper' | 'bank', volts: number, midpoint?: number) =>
    chargeViews(system(sees), timelineOf([charger, monitor(volts, midpoint)]))[0]!.batteryVolts?.[5] ?? null;
  expect(seen('lower', 26.6)).toBeNull();
  expect(seen('lower', 26.6, 13.2)).toBeCloseTo(13.2, 4);
  expect(seen('bank', 26.6, 13.2)).toBeCloseTo(13.2, 4);
  expect(seen('lower', 13.2)).toBeCloseTo(13.2, 4);
  expect(seen('upper', 13.2)).toBeNull();
});
