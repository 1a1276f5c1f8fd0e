/** What a stage is measured by: how its current falls late in it, and what the loads drew soon after it began. Drawn views. */

import { drawnView } from '../../../tests/support/drawnView';
import { agm } from '../../../tests/support/drawnCharges';
import { timelineOf } from '../log/timeline';
import { HOUR } from '../quantity/span';
import { measureStage } from './measure';
import type { Setpoints } from './setpoint';

const setpoints = { absorption: null, float: null, equalise: null, voltsPerC: 0 } as unknown as Setpoints;
const measure = (minutes: number, amps: (minute: number) => number) =>
  measureStage(
    { stage: 'absorption', runs: [{ state: 'absorption', from: 0, to: minutes }], dips: 0, cutOff: false },
    drawnView({ minutes, volts: () => 14.4, amps, battery: amps }),
    setpoints,
    timelineOf([]),
    agm,
  );

test('how fast the current still falls after hours: an ampere an hour, or not at all', () => {
  expect(measure(240, (minute) => 9 - minute / 60).fallsPerHour).toBeCloseTo(1, 1);
  expect(Math.abs(measure(240, (minute) => 3 + 12 * Math.exp(-minute / 20)).fallsPerHour)).toBeLessThan(0.05);
  // What comes to the tail of a hungry battery falls on.
  expect(measure(240, (minute) => 20 * Math.exp(-minute / 90)).fallsPerHour).toBeGreaterThan(0.5);
  expect(measure(150, () => 3).fallsPerHour).toBeNaN();
});

test('loads that ran as a stage began show soon after, where the current is steady', () => {
  // 4 A of the evening for an hour and a half, then 1 A.
  const evening = measure(600, (minute) => (minute < 90 ? 4 : 1));
  expect(evening.soonSourceAmps).toBeCloseTo(4, 1);
  expect(evening.usualSourceAmps).toBeCloseTo(1, 1);
  // A battery that is not full takes less and less.
  expect(measure(600, (minute) => 1 + 4 * Math.exp(-minute / 60)).soonSourceAmps).toBeNaN();
});

test('time at the current that the charger is set to end at, while loads keep its own above that', () => {
  // The battery comes down to 0.9 A after four hours; the loads draw 0.8 A beside it.
  const battery = (minute: number, least: number) => Math.max(least, 5 - minute / 58.5);
  const past = (loads: number, setTailA?: number, least = 0.7) =>
    measureStage(
      { stage: 'absorption', runs: [{ state: 'absorption', from: 0, to: 480 }], dips: 0, cutOff: false },
      drawnView({
        minutes: 480,
        volts: () => 14.4,
        amps: (m) => battery(m, least) + loads,
        battery: (m) => battery(m, least),
      }),
      setpoints,
      timelineOf([]),
      agm,
      setTailA,
    ).pastSettingMs / HOUR;
  expect(past(0.8, 0.9)).toBeGreaterThan(3.7);
  expect(past(0.8, 0.9)).toBeLessThan(4.1);
  // Without loads it sees the battery's own; what is hardly above is the meters'.
  expect(past(0, 0.9)).toBe(0);
  expect(past(0.1, 0.9)).toBe(0);
  expect(past(0.8)).toBeNaN();
  // A tail that stays a tenth above it is as good as there after two hours; one that stays half as much above is not.
  // It comes within a quarter after 227 of the 480 minutes, and two hours later it counts.
  expect(past(0.8, 0.9, 1)).toBeGreaterThan(2.1);
  expect(past(0.8, 0.9, 1)).toBeLessThan(2.4);
  expect(past(0, 0.9, 1)).toBe(0);
  expect(past(0.8, 0.9, 1.35)).toBe(0);
});

test('a charge that breaks off on a steep climb came as high as the battery rests right after it', () => {
  // Lithium at 34 A: 55.0 V in the last row, 58.0 V at rest in the next.
  const top = (amps: number, rest: number) =>
    measureStage(
      { stage: 'bulk', runs: [{ state: 'bulk', from: 0, to: 60 }], dips: 0, cutOff: false },
      drawnView({
        minutes: 90,
        volts: (m) => (m < 60 ? 54 + m / 60 : rest),
        amps: (m) => (m < 60 ? 34 : 0),
        battery: (m) => (m < 60 ? 34 : amps),
      }),
      setpoints,
      timelineOf([]),
      agm,
    ).topVolts;
  expect(top(0, 58)).toBeCloseTo(58, 1);
  expect(top(0, 53.4)).toBeCloseTo(55, 1);
  // Another charger goes on charging: what it lifts the voltage to is not this one's.
  expect(top(20, 58)).toBeCloseTo(55, 1);
});
