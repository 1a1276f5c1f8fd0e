/** Resistance between battery and load, from drawn logs. */

import { timelineOf } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { loadPaths } from './loadPath';

/** 50 mΩ to a load that draws 1.2 A, and 48 A for some minutes every five hours; eight days by the minute. */
function pathOf(minutes: number) {
  const time = Float64Array.from({ length: 8 * 1440 }, (_, i) => i * MINUTE);
  const column = (of: (minute: number) => number) => Float32Array.from(time, (_, i) => of(i));
  const amps = (minute: number) => (minute % 300 < minutes ? 48 : 1.2);
  const battery = (minute: number) => (minute % 300 < minutes ? 24.3 : 26.5);
  const volts = column((minute) => battery(minute) - 0.05 * amps(minute));
  const timeline = timelineOf([
    { device: 'monitor', time, channels: { battery_voltage: column(battery) } },
    { device: 'load', time, channels: { load_current: column(amps), load_voltage: volts } },
  ]);
  const load = { id: 'load', time, amps: column(amps), volts, hidden: null, given: null };
  return loadPaths([load], timeline);
}

test('is told by a load that runs for two samples now and then, at what it draws then', () => {
  const [path] = pathOf(2);
  expect(path!.ohms).toBeCloseTo(0.05, 3);
  expect(path!.amps).toBeCloseTo(48, 0);
});

test('not by single samples: there two meters are not read at the same moment', () => {
  expect(pathOf(1)).toEqual([]);
});
