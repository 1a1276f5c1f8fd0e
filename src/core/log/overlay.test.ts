/** Two logs laid over each other: the shifted one lies on the first, the other beside it. */

import { DAY, HOUR, MINUTE } from '../quantity/span';
import type { Series } from './channels';
import { estimateClock } from './overlay';

const START = Date.UTC(2026, 8, 21);
const COUNT = 4 * 1440;

/** Loads that come and go at moments of their own; the third day is the liveliest. */
function voltsAt(ms: number): number {
  const minute = Math.floor((ms - START) / MINUTE);
  const day = Math.floor(minute / 1440);
  const on = Math.imul((minute >> 4) + 7, 0x9e3779b1) >>> 28 < 5;
  return 12.6 - (on ? (day === 2 ? 0.9 : 0.4) : 0) + 0.3 * Math.sin(minute / 300);
}

const log = (
  device: string,
  ahead: number,
  channel: 'battery_voltage' | 'source_voltage' = 'battery_voltage',
): Series => ({
  device,
  time: Float64Array.from({ length: COUNT }, (_, i) => START + i * MINUTE + ahead),
  channels: { [channel]: Float32Array.from({ length: COUNT }, (_, i) => voltsAt(START + i * MINUTE)) },
});

const difference = (a: (number | null)[], b: (number | null)[]): number => {
  const both = a.flatMap((one, i) => (one !== null && b[i] !== null ? [Math.abs(one - b[i]!)] : []));
  return both.reduce((sum, one) => sum + one, 0) / both.length;
};

test('the curves of the liveliest day, as they stand and set right', () => {
  const { offset, overlay } = estimateClock(log('monitor', 0), log('solar', 47 * MINUTE, 'source_voltage'))!;
  expect(offset.sure).toBe(true);
  expect(Math.abs(offset.ms + 47 * MINUTE)).toBeLessThan(MINUTE);
  expect(overlay.unit).toBe('V');
  expect(overlay.step * overlay.first.length).toBeLessThanOrEqual(DAY);
  // The overlap begins with the second log, 47 minutes in; days are counted from there.
  expect(Math.floor((overlay.from - START) / DAY)).toBe(2);
  expect(difference(overlay.first, overlay.shifted)).toBeLessThan(
    0.25 * difference(overlay.first, overlay.second),
  );
  for (const curve of [overlay.first, overlay.second, overlay.shifted]) {
    expect(curve).toHaveLength(overlay.first.length);
    expect(curve.every((value) => value === null || Number.isFinite(value))).toBe(true);
  }
});

test('logs with nothing in common have none', () => {
  const heat: Series = {
    ...log('bms', 0),
    channels: { battery_temperature: new Float32Array(COUNT).fill(20) },
  };
  expect(estimateClock(log('monitor', 0), heat)).toBeNull();
  expect(
    estimateClock(log('monitor', 0), { ...log('solar', 0), time: log('solar', 90 * DAY).time }),
  ).toBeNull();
});

test('a log that is silent on part of the day has no points there', () => {
  const torn = log('solar', 0, 'source_voltage');
  const from = START + 2 * DAY + 6 * HOUR;
  const kept = torn.time.map((ms, i) => (ms > from && ms < from + 5 * HOUR ? -1 : i)).filter((i) => i >= 0);
  const { overlay } = estimateClock(log('monitor', 0), {
    ...torn,
    time: Float64Array.from(kept, (i) => torn.time[i]!),
    channels: { source_voltage: Float32Array.from(kept, (i) => torn.channels.source_voltage![i]!) },
  })!;
  const missing = overlay.second.filter((value) => value === null).length * overlay.step;
  expect(missing).toBeGreaterThan(4 * HOUR);
  expect(overlay.first.filter((value) => value === null).length * overlay.step).toBeLessThan(HOUR);
});
