/** Voltages that loads lead to, and voltages that a charger holds against them. Drawn, so that the answer is known. */

import { agm, source } from '../../../tests/support/drawnCharges';
import { type Drawing, drawnView } from '../../../tests/support/drawnView';
import type { KnownBank } from '../system/known';
import { findSetpoints } from './setpoints';
import { isLeftToLoads, jumpsOf } from './unanswered';

const DAY = 1440;
/** A load of an hour in every two, by day. */
const draws = (m: number) => m % 120 < 60;
const byDay = (m: number) => m % DAY > 480 && m % DAY < 960;

/** The sun gives 3 A whatever the load does: 13.30 V without it, 12.80 V with it. */
const left: Drawing = {
  minutes: 4 * DAY,
  volts: (m) => (byDay(m) && !draws(m) ? 13.3 : 12.8),
  amps: (m) => (byDay(m) ? 3 : 0),
};
/** The charger holds 14.4 V and gives the load what it asks for, but for the heaviest, at which it gives its 20 A. */
const held: Drawing = {
  minutes: 4 * DAY,
  volts: (m) => (byDay(m) ? (draws(m) ? 14.1 : 14.4) : 12.8),
  amps: (m) => (byDay(m) ? (draws(m) ? 20 : 6) : 0),
};
const setpoint = (volts: number) => ({ volts, width: 0.01, hours: 8, days: 4, called: null });
const leftAt = (drawing: Drawing, volts: number) =>
  isLeftToLoads(setpoint(volts), jumpsOf(drawnView(drawing), 0, 0.5));

test('a voltage that comes and goes with loads that the source does not answer is none that it holds', () => {
  expect(leftAt(left, 13.3)).toBe(true);
  const view = drawnView(left);
  const looksHeld = view.volts.map((volts) => (volts > 13 ? 2 : -2));
  expect(findSetpoints(view, looksHeld, agm as KnownBank, { ...source, profile: {} }).all).toEqual([]);
});

test('a voltage that the source holds against its loads is its own', () => {
  expect(jumpsOf(drawnView(held), 0, 0.5).filter((one) => one.answered).length).toBeGreaterThan(10);
  expect(leftAt(held, 14.4)).toBe(false);
});

test('a voltage that bulk leaps to as a load leaves, and that then stands while the current follows the loads, is its own', () => {
  // At its limit until 9:30, the load gone at 9:00; from then on 14.4 V whatever is drawn.
  const minute = (m: number) => m % DAY;
  const leapt: Drawing = {
    minutes: 4 * DAY,
    volts: (m) => (!byDay(m) ? 12.8 : minute(m) < 540 ? 13.6 : 14.4),
    amps: (m) => (!byDay(m) ? 0 : minute(m) < 570 ? 20 : draws(m) ? 16 : 4),
  };
  const jumps = jumpsOf(drawnView(leapt), 0, 0.5);
  expect(jumps.filter((one) => !one.answered).length).toBeGreaterThanOrEqual(3);
  expect(isLeftToLoads(setpoint(14.4), jumps)).toBe(false);
});

test('a cloud moves voltage and current alike, and tells nothing of loads', () => {
  const cloud: Drawing = { ...left, amps: (m) => (byDay(m) ? (draws(m) ? 0.8 : 3) : 0) };
  expect(jumpsOf(drawnView(cloud), 0, 0.5)).toEqual([]);
});

test('once or twice is chance; and seen from the battery alone a load is inside the current', () => {
  expect(leftAt({ ...left, minutes: 600 }, 13.3)).toBe(false);
  expect(jumpsOf(drawnView({ ...left, seenByBattery: true }), 0, 0.5)).toEqual([]);
});
