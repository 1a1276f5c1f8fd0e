/** Logs of one device that were fetched in parts or twice. */

import { joinParts, joinSeries } from './join';
import type { Series } from './channels';
import { timelineOf } from './timeline';

const START = Date.UTC(2026, 8, 21);
const MINUTE = 60_000;
const log = (from: number, volts: number[], device = 'monitor', step = 1): Series => ({
  device,
  time: Float64Array.from(volts, (_, i) => START + (from + i * step) * MINUTE),
  channels: { battery_voltage: Float32Array.from(volts) },
});

test('two parts that follow each other become one, whichever comes first', () => {
  const [july, august] = [log(0, [24, 25, 26]), log(3, [27, 28, 29])];
  for (const given of [
    [july, august],
    [august, july],
  ]) {
    const { series } = timelineOf(given);
    expect(series).toHaveLength(1);
    expect([...series[0]!.channels.battery_voltage!]).toEqual([24, 25, 26, 27, 28, 29]);
    expect([...series[0]!.time]).toEqual([...july.time, ...august.time]);
  }
});

test('a moment that both hold stands once: the second counts, the first fills what it lacks', () => {
  const first = log(0, [24, 25, 26]);
  const second = log(1, [25, 26.5, 27]);
  first.channels.soc = Float32Array.of(90, 91, 92);
  second.channels.battery_current = Float32Array.of(1, NaN, 3);
  const { series, shared, differing } = joinSeries(first, second);
  expect({ shared, differing }).toEqual({ shared: 2, differing: 1 });
  expect([...series.channels.battery_voltage!]).toEqual([24, 25, 26.5, 27]);
  expect([...series.channels.soc!]).toEqual([90, 91, 92, NaN]);
  expect([...series.channels.battery_current!]).toEqual([NaN, 1, NaN, 3]);
});

test('other devices, logs with nothing in common, and logs sampled far less often stay apart', () => {
  const minutes = log(0, [24, 25, 26, 27, 28, 29, 30]);
  expect(joinParts([minutes, log(0, [24, 25], 'bms')])).toHaveLength(2);
  const heat: Series = {
    ...log(0, [1, 2, 3]),
    channels: { battery_temperature: Float32Array.of(20, 21, 22) },
  };
  expect(joinParts([minutes, heat])).toHaveLength(2);
  expect(joinParts([minutes, log(0, [24, 25, 26], 'monitor', 30)])).toHaveLength(2);
});
