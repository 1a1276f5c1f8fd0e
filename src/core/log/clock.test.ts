/** Setting a clock: zones by luxon's own, offsets and drifts by arithmetic, and never a time out of order. */

import fc from 'fast-check';
import { DateTime } from 'luxon';
import { DAY, HOUR, MINUTE } from '../quantity/span';
import { type Clock, setClock } from './clock';

const plain = (timeZone: string): Clock => ({ timeZone, offsetSeconds: 0, secondsPerDay: 0 });
const START = Date.UTC(2026, 8, 21, 6);
const times = Float64Array.from({ length: 5000 }, (_, i) => START + i * 5 * MINUTE + 0.25);

test('a clock with nothing to set gives back the very times', () => {
  expect(setClock(times, 'Europe/Rome', plain('Europe/Rome'))).toBe(times);
  expect(setClock(times, null, plain('Asia/Kathmandu'))).toBe(times);
});

test('an offset moves every time by as much, a drift by more every day', () => {
  const shifted = setClock(times, null, { ...plain('UTC'), offsetSeconds: -3600 });
  expect(shifted.every((ms, i) => ms === times[i]! - HOUR)).toBe(true);
  const drifted = setClock(times, null, { ...plain('UTC'), offsetSeconds: 60, secondsPerDay: -8 });
  const last = times.length - 1;
  expect(drifted[0]).toBe(Math.round(times[0]! + MINUTE));
  expect(
    Math.abs(drifted[last]! - (times[last]! + MINUTE - (8000 * (times[last]! - times[0]!)) / DAY)),
  ).toBeLessThanOrEqual(0.5);
  expect(() => setClock(times, null, { ...plain('UTC'), secondsPerDay: -86_400 })).toThrow(
    /cannot lose a day/,
  );
});

test('another zone reads the same wall clock, across a change of it', () => {
  // 24 to 27 October 2026: Rome sets its clock back in the night to the 25th, New York a week later.
  const wall = Array.from({ length: 3 * 24 }, (_, i) =>
    DateTime.fromISO('2026-10-24T00:00', { zone: 'Europe/Rome' }).plus({ hours: i }),
  );
  const read = Float64Array.from(wall, (one) => one.toMillis());
  const set = setClock(read, 'Europe/Rome', plain('America/New_York'));
  wall.forEach((one, i) => {
    const meant = one.setZone('America/New_York', { keepLocalTime: true });
    // The hour that comes twice in Rome comes once in New York: there order is all that can be kept.
    if (one.day === 25 && one.hour === 2) return;
    expect(set[i]).toBe(meant.toMillis());
  });
  expect(setClock(set, 'America/New_York', plain('Europe/Rome'))[0]).toBe(read[0]);
});

test('whatever is set, times keep rising', () => {
  const zone = fc.constantFrom('Europe/Rome', 'UTC', 'America/St_Johns', 'Australia/Lord_Howe');
  fc.assert(
    fc.property(
      zone,
      zone,
      fc.integer({ min: Date.UTC(2020, 0, 1), max: Date.UTC(2030, 0, 1) }),
      fc.integer({ min: -100_000, max: 100_000 }),
      fc.double({ min: -600, max: 600, noNaN: true }),
      (from, to, start, offsetSeconds, secondsPerDay) => {
        const read = Float64Array.from({ length: 400 }, (_, i) => start + i * 23 * MINUTE);
        const set = setClock(read, from, { timeZone: to, offsetSeconds, secondsPerDay });
        for (let i = 1; i < set.length; i++) expect(set[i]!).toBeGreaterThan(set[i - 1]!);
      },
    ),
  );
});
