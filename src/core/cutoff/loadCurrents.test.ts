/** Loads by what sources and battery give together, where the two logs are written at other moments. Drawn, so that the answer is known. */

import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import { loadCurrents } from './loadCurrents';

const MINUTE = 60_000;
const ROWS = 40;
/** The charger writes its rows twenty seconds after the battery's meter. */
const LATE = 20_000;

/** @param load A drawn and @param given A, by the minute and its parts */
function drawn(load: (minute: number) => number, given: (minute: number) => number): number[] {
  const rows = (late: number) => Float64Array.from({ length: ROWS }, (_, i) => i * MINUTE + late);
  const column = (time: Float64Array, of: (minute: number) => number) =>
    Float32Array.from(time, (ms) => of(ms / MINUTE));
  const series: Series[] = [
    {
      device: 'monitor',
      time: rows(0),
      channels: {
        battery_voltage: column(rows(0), () => 12.5),
        battery_current: column(rows(0), (minute) => given(minute) - load(minute)),
      },
    },
    { device: 'charger', time: rows(LATE), channels: { source_current: column(rows(LATE), given) } },
  ];
  const system = {
    bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 },
    sources: [{ id: 'charger', name: 'Charger', kind: 'mains', ratedA: 50 }],
    loads: [{ id: 'pump', name: 'Pump', counted: true }],
    timeZone: 'UTC',
  } as unknown as KnownSystem;
  const [only] = loadCurrents(system, timelineOf(series), 0);
  return Array.from(only!.amps).slice(2, -2);
}

test('a charger that comes or goes between two of its rows makes no load', () => {
  // On from a quarter past the tenth minute, off from a quarter past the thirtieth: each log shows it on another side of the other's row.
  const amps = drawn(
    () => 10,
    (minute) => (minute > 10.25 && minute < 30.25 ? 48 : 0),
  );
  for (const one of amps) expect(one).toBeCloseTo(10, 3);
});

test('a load that goes as a cloud comes falls at once', () => {
  const amps = drawn(
    (minute) => (minute < 20 ? 40 : 0),
    (minute) => (minute < 19.5 ? 45 : 3),
  );
  expect(amps.filter((one) => one > 39)).toHaveLength(18);
  expect(amps.filter((one) => Math.abs(one) < 1)).toHaveLength(18);
});
