/** Lithium that stands at a voltage nobody set. Drawn days, so that the answer is known. */

import { type Drawing, drawnView } from '../../../tests/support/drawnView';
import { isChargedPast } from './passedThrough';

const DAY = 1440;
const setpoint = { volts: 13.6, width: 0.01, hours: 5, days: 5, called: null };
const past = (
  volts: (m: number) => number,
  amps: (m: number) => number = () => 3,
  called: 'float' | null = null,
) => {
  const drawing: Drawing = { minutes: 5 * DAY, volts: (m) => volts(m % DAY), amps: (m) => amps(m % DAY) };
  const view = drawnView(drawing);
  const held = view.volts.map((one) => (Math.abs(one - 13.6) < 0.05 ? 2 : -2));
  return isChargedPast({ ...setpoint, called }, view, held, 0.5, 0);
};

/** From the flat part to 13.6 V, where it stands for an hour, and on to 14.3 V for a quarter of one. */
const onward = (m: number) => (m < 600 ? 13.35 : m < 660 ? 13.6 : m < 675 ? 14.3 : 13.3);

test('what a charge stands at, and then goes past, is no voltage at which it is held', () => {
  expect(past(onward)).toBe(true);
  // Nor does it matter who else gives, but for this source's own current.
  expect(past(onward, (m) => (m < 660 ? 3 : 0))).toBe(false);
});

test('what no charge goes past is held', () => {
  expect(past((m) => (m < 600 ? 13.35 : m < 660 ? 13.6 : 13.3))).toBe(false);
});

test('what is come down to from above is a float; and so is what the charger calls so', () => {
  expect(past((m) => (m < 600 ? 13.35 : m < 660 ? 14.3 : m < 1000 ? 13.6 : 13.3))).toBe(false);
  expect(past(onward, () => 3, 'float')).toBe(false);
});

test('nor is a float that is kept for hours after a charge, though the battery stands there on its way up too', () => {
  const kept = (until: number) =>
    past((m) =>
      m < 600 ? 13.35 : m < 660 ? 13.6 : m < 675 ? 14.3 : m < 690 ? 13.3 : m < until ? 13.6 : 13.3,
    );
  expect(kept(690 + 240)).toBe(false);
  expect(kept(690 + 30)).toBe(true);
});
