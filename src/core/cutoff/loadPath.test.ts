/** Resistance between battery and load, from drawn logs. */

import { timelineOf } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { loadPaths } from './loadPath';

/** 50 mΩ to a load that draws 1.2 A, and 48 A for some minutes every five hours; eight days by the minute. */
function pathOf(minutes: number, shown?: (minute: number) => number, sags = (_: number) => 1) {
  const time = Float64Array.from({ length: 8 * 1440 }, (_, i) => i * MINUTE);
  const column = (of: (minute: number) => number) => Float32Array.from(time, (_, i) => of(i));
  const amps = (minute: number) => (minute % 300 < minutes ? 48 : 1.2);
  const sag = (minute: number) => (minute % 300 < minutes ? 2.2 : 0);
  const battery = (minute: number) => 26.5 - sag(minute);
  const volts = column((minute) => battery(minute) - 0.05 * amps(minute));
  const timeline = timelineOf([
    {
      device: 'monitor',
      time,
      channels: {
        battery_voltage: column((minute) => 26.5 - sags(minute) * sag(minute)),
        ...(shown ? { battery_current: column(shown) } : {}),
      },
    },
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

describe('single samples, where two meters need not be read at the same moment', () => {
  const beside = (part: number) => (minute: number) => -(minute % 300 < 1 ? part * 48 : 1.2);
  test('tell it where the battery’s current steps with the load’s, and all say the same', () => {
    const [path] = pathOf(1, beside(1));
    expect(path!.ohms).toBeCloseTo(0.05, 3);
  });
  test('tell nothing where it does not, nor where they differ', () => {
    expect(pathOf(1)).toEqual([]);
    // A charger carries it, or the meter was read before it began.
    expect(pathOf(1, beside(0.3))).toEqual([]);
    // Its voltage was read before it began every other time.
    expect(pathOf(1, beside(1), (minute) => Math.floor(minute / 300) % 2)).toEqual([]);
  });
});
