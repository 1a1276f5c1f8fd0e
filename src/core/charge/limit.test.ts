/** Currents that are a source's limit, and currents at which it only happens to stand. Drawn, so that the answer is known. */

import { type Drawing, drawnView } from '../../../tests/support/drawnView';
import { findLimits } from './limit';

const DAY = 1440;
/** Warm by day, cold by night. */
const celsius = (m: number) => 20 + 8 * Math.sin((2 * Math.PI * m) / DAY);
const amps = (drawing: Drawing) => findLimits(drawnView(drawing), 0.3).map((one) => one.amps);

/** Three hours of bulk at 10 A a day, and then what the loads draw, 3 A, at a float that follows the temperature. */
const day: Drawing = {
  minutes: 6 * DAY,
  volts: (m) => (m % DAY < 180 ? 12.6 + (m % DAY) / 100 : 13.7 - 0.024 * (celsius(m) - 25)),
  amps: (m) => (m % DAY < 180 ? 10 : 3.1),
  celsius,
};

test('a current at which the voltage climbs through a whole range is the source’s limit', () => {
  const [most, ...others] = amps({ ...day, amps: (m) => (m % DAY < 180 ? 10 : 0) });
  expect(most).toBeCloseTo(10, 1);
  expect(others).toEqual([]);
});

test('a held voltage that follows the temperature goes through a range too, and makes no limit of what the loads draw', () => {
  expect(
    amps({ ...day, volts: (m) => day.volts(m) - (m % DAY < 180 ? 0 : 0.024 * (celsius(m) - 25)) }),
  ).toHaveLength(1);
  expect(amps(day)).toHaveLength(1);
});

test('a charger that is hot has a second one, in whatever weather', () => {
  const hot: Drawing = {
    ...day,
    volts: (m) => (m % DAY < 360 ? 12.6 + (m % DAY) / 200 : 13.7),
    amps: (m) => (m % DAY < 180 ? 10 : m % DAY < 360 ? 6 : 0),
  };
  const [most, last] = amps(hot);
  expect(most).toBeCloseTo(10, 1);
  expect(last).toBeCloseTo(6, 1);
});
