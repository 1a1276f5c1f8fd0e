/** Stretches between syncs, and what made the reading part from the truth in them. */

import { LEAD_SETTINGS } from '../../../tests/support/counterSettings';
import { timelineOf } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { driftOf } from './drift';
import type { Reference } from './reference';

const HOURS = 5;

/**
 * Full for an hour, then so many amperes for an hour, then at rest; the reading falls by the exponent.
 * @param otherHalf points by which the half that is not seen falls further
 */
function drawn(amps: number, otherHalf = 0) {
  const count = HOURS * 60;
  const time = Float64Array.from({ length: count }, (_, i) => i * MINUTE);
  const draws = (i: number) => i >= 60 && i < 120;
  const run = (i: number) => Math.min(1, Math.max(0, (i - 59) / 60));
  const weight = (amps / 5) ** 0.5;
  const estimate = (value: number) => ({ value, deviation: 1, before: { value, deviation: 1 } });
  const reference = (falls: number) =>
    ({
      grid: { from: 0, step: 10 * MINUTE, count: HOURS * 6, cuts: [] },
      percent: Float64Array.from({ length: HOURS * 6 }, (_, k) => 100 - falls * run(10 * (k + 1))),
      deviation: new Float64Array(HOURS * 6).fill(0.5),
      capacityAh: estimate(100),
      efficiencyPercent: estimate(85),
      offsetA: estimate(0),
    }) as unknown as Reference;
  return driftOf({
    log: {
      device: 'monitor',
      ampsAreItsOwn: true,
      time,
      volts: new Float32Array(count).fill(12.6),
      amps: Float32Array.from(time, (_, i) => (draws(i) ? -amps : 0)),
      reading: Float32Array.from(time, (_, i) => 100 - weight * amps * run(i)),
    },
    timeline: timelineOf([]),
    settings: { ...LEAD_SETTINGS, peukert: 1.5 },
    reference: reference(amps + otherHalf),
    seen: reference(amps),
    wrong: { gain: 1, unseen: [] },
    syncs: [],
    jumps: [],
  });
}

test('a few hours in which the reading falls far are a stretch, and the exponent has its part; a few in which it hardly moves are none', () => {
  const [one, ...others] = drawn(20);
  expect(others).toEqual([]);
  // Four times the rated current at an exponent of 1.5 counts twice: 20 Ah too many of 100.
  expect(one!.drift).toBeCloseTo(-20, 0);
  expect(one!.parts.peukert).toBeCloseTo(-20, 0);
  expect(one!.parts.unexplained).toBeCloseTo(0, 0);
  expect(drawn(6)).toEqual([]);
});

test('what the other half lost beside the one that is seen is a part of its own', () => {
  const [one] = drawn(20, 15);
  expect(one!.trueTo).toBeCloseTo(65, 0);
  expect(one!.parts.otherHalf).toBeCloseTo(15, 0);
  expect(one!.parts.peukert).toBeCloseTo(-20, 0);
  expect(one!.parts.unexplained).toBeCloseTo(0, 0);
  expect(drawn(20)[0]!.parts.otherHalf).toBe(0);
});
