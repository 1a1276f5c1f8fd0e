/** A drawn log of a 12 V battery in rows of 30 s, which are judged by the minute. */

import { timelineOf } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import { countedParts } from './countedParts';
import type { CounterLog } from './counterLog';

const ROWS = 240;
const system = {
  bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 },
  sources: [],
  loads: [],
  timeZone: 'UTC',
} as unknown as KnownSystem;

const seenVolts = (of: (row: number) => number): Float32Array => {
  const log: CounterLog = {
    device: 'monitor',
    time: Float64Array.from({ length: ROWS }, (_, row) => row * 30_000),
    amps: new Float32Array(ROWS).fill(-1),
    ampsAreItsOwn: true,
    volts: Float32Array.from({ length: ROWS }, (_, row) => of(row)),
    reading: null,
  };
  return countedParts({ system, timeline: timelineOf([]), log, charging: [] }, log.amps).seen.volts!;
};

test('a bus that is dead for one row of a minute stands at no voltage between', () => {
  const volts = seenVolts((row) => (row === 100 ? 0 : 12.4));
  expect(Math.min(...volts)).toBeCloseTo(12.4, 2);
});

test('where it is dead for longer there is no voltage', () => {
  const volts = seenVolts((row) => (row >= 100 && row < 160 ? 0.2 : 12.4));
  expect(volts[60]).toBeNaN();
  expect(Math.min(...volts.filter((one) => one === one))).toBeCloseTo(12.4, 2);
});
