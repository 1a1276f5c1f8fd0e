/** Loads that a charger carries: what ends them is not the battery. */

import type { Series } from '../log/channels';
import { column, DAY, find, MINUTE } from '../../../tests/support/drawnLoads';

const off = (m: number) => m % DAY >= 600;

test('what a charger carried beside a pack that is cut off goes off with the charger, and the bus with it', () => {
  const time = Float64Array.from({ length: 2 * DAY }, (_, i) => i * MINUTE);
  const cells: Series = {
    device: 'bms',
    time,
    channels: { cell_01_voltage: column(() => 2.6, 2), cell_02_voltage: column(() => 2.9, 2) },
  };
  const cuts = (given: number) =>
    find(
      {
        amps: (m) => (off(m) ? 0 : 8),
        given: (m) => (off(m) ? 0 : given),
        volts: (m) => (off(m) ? 0 : 13.2),
      },
      {},
      { more: [cells], chemistry: 'lfp' },
    ).map((one) => [one.by, one.why]);
  expect(cuts(8)).toEqual([]);
  expect(cuts(0)).toEqual([
    ['bms', 'cell-low'],
    ['bms', 'cell-low'],
  ]);
});

test('a load that ends near its limit while the battery is charged was not cut; under the limit it was', () => {
  const cuts = (end: number, given: number) =>
    find(
      {
        amps: (m) => (off(m) ? 0 : 8 + (m % 7) / 10),
        given: () => given,
        volts: (m) => (m % DAY < 590 ? 11.9 : off(m) ? 12.3 : end + 0.3 * Math.floor(m / DAY)),
      },
      { cutoffV: 11.5 },
    ).length;
  expect(cuts(11.7, 0)).toBe(1);
  expect(cuts(11.7, 11)).toBe(0);
  expect(cuts(11.4, 11)).toBe(1);
});

test('a start through a long wire: the load’s own voltage says that it was cut by that, not by its protection', () => {
  const start = (m: number) => m % DAY === 300;
  const why = (loadVolts: number) =>
    find({
      amps: (m) => (m % DAY < 290 ? 3 : start(m) ? 40 : 0),
      volts: (m) => (start(m) ? 12.2 : 12.7),
      loadVolts: (m) => (start(m) ? loadVolts : 12.6),
    }).map((one) => one.why);
  expect(why(11.2)).toEqual(['volts', 'volts']);
  expect(why(12.0)).toEqual(['surge', 'surge']);
});
