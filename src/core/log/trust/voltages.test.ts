/** Two meters on one bus, drawn by hand: off by a constant, or only read at other moments. */

import { alignClocks } from '../align';
import type { Series } from '../channels';
import { timelineOf } from '../timeline';
import type { KnownSystem } from '../../system/known';
import { voltageDisagrees } from './voltages';

const MINUTE = 60_000;
const DAYS = 14;

const column = (every: number, of: (minute: number) => number): Float32Array =>
  Float32Array.from({ length: (DAYS * 1440) / every }, (_, i) => of((i * every) % 1440));
const times = (every: number, from: number): Float64Array =>
  Float64Array.from({ length: (DAYS * 1440) / every }, (_, i) => (i * every + from) * MINUTE);

// Mains that goes off for ten minutes a day: between a log of ten minutes and one of twenty those moments bend the line.
test('samples between on and off make no meters that differ; a constant does', () => {
  const system = {
    timeZone: 'UTC',
    bank: { chemistry: 'gel', cellsInSeries: 12, capacityAh: 200 },
    sources: [{ id: 'mains', name: 'Mains' }],
    loads: [],
  } as unknown as KnownSystem;
  const isOff = (minute: number) => minute === 520;
  const volts = (minute: number) => (isOff(minute) ? 25.4 : 27.6);
  const told = (apart: number) => {
    const series: Series[] = [
      {
        device: 'mains',
        time: times(10, 0),
        channels: {
          source_voltage: column(10, (minute) => volts(minute) + apart),
          source_current: column(10, (minute) => (isOff(minute) ? 0 : 1.7)),
        },
      },
      { device: 'monitor', time: times(20, 5), channels: { battery_voltage: column(20, volts) } },
    ];
    return voltageDisagrees({ timeline: alignClocks(timelineOf(series), system), system, bank: system.bank });
  };
  expect(told(0)).toEqual([]);
  expect(told(0.6).map((one) => one.text)).toEqual([expect.stringContaining('more than the monitor')]);
});
