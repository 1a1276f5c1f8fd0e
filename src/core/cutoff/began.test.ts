import { timelineOf } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { voltsAtBegin } from './began';

/** An hour by the minute; from the twentieth on a load draws, and the voltage sinks by a hundredth a minute. */
const time = Float64Array.from({ length: 60 }, (_, i) => i * MINUTE);
const log = (drawn: (minute: number) => number) =>
  timelineOf([
    {
      device: 'monitor',
      time,
      channels: {
        battery_voltage: Float32Array.from(time, (_, i) => (i < 20 ? 13.8 : 11.6 - 0.01 * (i - 20))),
        battery_current: Float32Array.from(time, (_, i) => (i < 20 ? 0.2 : -drawn(i))),
      },
    },
  ]);
const cut = { at: 55 * MINUTE, ranMs: 35 * MINUTE, amps: 14 };

test('the voltage as the load had just come, before the run drew it down', () => {
  expect(
    voltsAtBegin(
      log(() => 14),
      cut,
    ),
  ).toBeCloseTo(11.58, 4);
});

test('not where another current flowed then, nor of a run of a row or two, nor of no known length', () => {
  expect(
    voltsAtBegin(
      log((i) => (i < 30 ? 8 : 14)),
      cut,
    ),
  ).toBeNaN();
  expect(
    voltsAtBegin(
      log(() => 14),
      { ...cut, at: 22 * MINUTE, ranMs: 2 * MINUTE },
    ),
  ).toBeNaN();
  expect(
    voltsAtBegin(
      log(() => 14),
      { ...cut, ranMs: NaN },
    ),
  ).toBeNaN();
});
