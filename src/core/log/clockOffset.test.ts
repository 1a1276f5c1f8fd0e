/** Clocks of two logs whose meters stand on either side of what lets the battery go. */

import { MINUTE } from '../quantity/span';
import { seededRandom } from '../simulate/random';
import type { Series } from './channels';
import { clockOffset } from './clockOffset';

const DAYS = 14;
const DAY_MINUTES = 1440;

/** Minutes of a beginning at another time each second day: the voltage sinks fast, the BMS opens for five hours, then a charge follows. */
const since = (minute: number) => {
  const pair = Math.floor(minute / (2 * DAY_MINUTES));
  return (minute % (2 * DAY_MINUTES)) - 200 - 311 * ((pair * 3) % 5);
};
const opens = (minute: number) => since(minute) >= 0 && since(minute) < 300;
function cells(minute: number): number {
  const at = since(minute);
  if (at >= 300 && at < 600) return 54.5 + (at - 300) / 100;
  if (opens(minute)) return 51.2 + Math.min(1, at / 200);
  return at < 0 && at > -90 ? 52.6 - ((90 + at) / 90) * 2.2 : 52.8;
}

const log = (device: string, volts: (minute: number) => number, lateMinutes = 0): Series => {
  const time = Float64Array.from({ length: DAYS * DAY_MINUTES }, (_, i) => (i + lateMinutes) * MINUTE);
  return {
    device,
    time,
    channels: { battery_voltage: Float32Array.from(time, (_, i) => volts(i) + 0.02 * ((i * 7) % 5)) },
  };
};

test('a bus that is dead while the battery rests behind its BMS sets no clock; a clock that is late is found beside it', () => {
  const bus = log('monitor', (minute) => (opens(minute) ? 0 : cells(minute)));
  expect(clockOffset(bus, log('bms', cells))!).toMatchObject({ sure: false });
  const late = clockOffset(bus, log('bms', cells, 60))!;
  expect(late.sure).toBe(true);
  expect(Math.abs(late.ms / MINUTE + 60)).toBeLessThan(2);
});

test('hours that are dead in one log are left out of both: the mean of the other would be bent by them', () => {
  // Each day the voltage falls faster and faster until the BMS opens for hours, and then rises in steps; the meter reads in tenths of a volt.
  const STEP = 6;
  const falls = (minute: number) =>
    (minute + 60 * ((Math.floor(minute / DAY_MINUTES) * 5) % 7)) % DAY_MINUTES;
  const open = (minute: number) => falls(minute) >= 700 && falls(minute) < 1000;
  const battery = (minute: number) => {
    const at = falls(minute);
    if (open(minute)) return 41.8;
    return at < 700 ? 51 - 9.2 * (at / 700) ** 3 : 41.8 + Math.floor((at - 1000) / STEP) * 0.12;
  };
  const rounded = log('monitor', (minute) => (open(minute) ? 0 : Math.round(10 * battery(minute)) / 10));
  const found = clockOffset(rounded, log('bms', battery))!;
  expect(found).toMatchObject({ sure: false });
  expect(found.unshifted).toBeGreaterThan(0.95);
});

test('a clock that runs away is seen in a log of nine days, by parts of two; one that keeps time is left alone', () => {
  const random = seededRandom(3);
  // Clouds, never the same way twice.
  const clouds = Float64Array.from({ length: (DAYS * DAY_MINUTES) / 20 + 2 }, () => random.next());
  const sway = (minute: number) => {
    const [at, into] = [Math.floor(minute / 20), (minute % 20) / 20];
    return 12.5 + clouds[at]! + (clouds[at + 1]! - clouds[at]!) * into;
  };
  const monitor = log('monitor', sway);
  const parting = (perDay: number, days = 9) => {
    const kept = Float64Array.from({ length: days * DAY_MINUTES }, (_, i) => i * MINUTE);
    const volts = Float32Array.from(kept, (ms) => sway(ms / MINUTE) + random.normal(0, 0.02));
    const time = kept.map((ms) => ms + Math.round((perDay * ms) / (DAY_MINUTES * MINUTE)) * 1000);
    return clockOffset(monitor, { device: 'charger', time, channels: { source_voltage: volts } })!;
  };
  const late = parting(25);
  expect(late.sure).toBe(true);
  expect(Math.abs(late.secondsPerDay + 25)).toBeLessThan(2);
  expect(Math.abs(late.ms)).toBeLessThan(15_000);
  expect(parting(0)).toMatchObject({ sure: false, secondsPerDay: 0 });
  // A quarter of a minute a day is no matter in nine days.
  expect(parting(12).secondsPerDay).toBe(0);
});

test('a log written every five minutes that is seven minutes late is sure where that makes it agree far better; four minutes may be how it stamps its means', () => {
  // Clouds: the voltage sways within half an hour to an hour and a half, and never the same way twice.
  const sway = (minute: number) =>
    12.9 +
    [31, 43, 67, 89].reduce((sum, period) => sum + 0.15 * Math.sin((2 * Math.PI * minute) / period), 0);
  const slow = (lateMinutes: number): Series => {
    const time = Float64Array.from({ length: (DAYS * DAY_MINUTES) / 5 }, (_, i) => 5 * i * MINUTE);
    const volts = Float32Array.from(time, (ms) => sway(ms / MINUTE - lateMinutes));
    return { device: 'charger', time, channels: { source_voltage: volts } };
  };
  const monitor = log('monitor', sway);
  const [seven, four] = [clockOffset(monitor, slow(7))!, clockOffset(monitor, slow(4))!];
  expect(seven.sure).toBe(true);
  expect(Math.abs(seven.ms / MINUTE + 7)).toBeLessThan(1.5);
  expect(four.sure).toBe(false);
});

test('a log a row late is sure where voltage and current both say so; by the voltage alone it may be how it stamps its means', () => {
  // The voltage sways slowly, so that a row more or less is nearly the same; the charger's current comes and goes with the clouds.
  const random = seededRandom(7);
  const values = Float64Array.from({ length: (DAYS * DAY_MINUTES) / 10 + 10 }, () => random.next());
  const drawn = (k: number) => values[Math.max(0, k)]!;
  const sway = (minute: number) => {
    const [at, into] = [Math.floor(minute / 150), (minute % 150) / 150];
    return 12.5 + drawn(at) + (drawn(at + 1) - drawn(at)) * into;
  };
  const clouds = (minute: number) => 8 * drawn(Math.floor(minute / 10));
  const rows = (
    device: string,
    lateMinutes: number,
    { every = 2, withAmps = true }: { every?: number; withAmps?: boolean } = {},
  ): Series => {
    const time = Float64Array.from(
      { length: (DAYS * DAY_MINUTES) / every },
      (_, i) => (every * i + lateMinutes) * MINUTE,
    );
    const at = (of: (minute: number) => number) =>
      Float32Array.from(time, (ms) => of(ms / MINUTE - lateMinutes));
    const kind = device === 'monitor' ? 'battery' : 'source';
    return {
      device,
      time,
      channels: {
        [`${kind}_voltage`]: at(sway),
        ...(withAmps ? { [`${kind}_current`]: at(clouds) } : {}),
      },
    };
  };
  const late = (minutes: number, by: { every?: number; withAmps?: boolean } = {}) => {
    const found = clockOffset(rows('monitor', 0, by), rows('charger', minutes, by))!;
    return found.sure ? -found.ms / MINUTE : null;
  };
  expect(Math.abs(late(2.5)! - 2.5)).toBeLessThan(0.25);
  expect(late(2.5, { withAmps: false })).toBeNull();
  expect(late(1)).toBeNull();
  // Of rows of a minute a minute and a quarter is enough.
  expect(Math.abs(late(1.25, { every: 1 })! - 1.25)).toBeLessThan(0.25);
  expect(late(0.5, { every: 1 })).toBeNull();
});
