import { DateTime } from 'luxon';
import fc from 'fast-check';
import { HOUR, MINUTE } from '../quantity/span';
import { isTimeZone } from '../quantity/timeZone';
import { localClock, zoneOffsetMinutes } from './localTime';

const ZONES = ['Europe/Rome', 'UTC', 'America/St_Johns', 'Australia/Lord_Howe', 'Asia/Kathmandu'];

test('outside changes of the clock the conversion is luxon’s own', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...ZONES),
      fc.integer({ min: Date.UTC(2020, 0, 1), max: Date.UTC(2030, 0, 1) }),
      (zone, utc) => {
        const offset = zoneOffsetMinutes(zone, utc);
        fc.pre([-3, 3].every((hours) => zoneOffsetMinutes(zone, utc + hours * HOUR) === offset));
        expect(localClock(zone)(utc + offset * MINUTE)).toBe(utc);
      },
    ),
  );
});

test('a log that runs through both changes of the clock keeps its even steps', () => {
  for (const day of ['2026-03-29', '2026-10-25']) {
    const start = DateTime.fromISO(`${day}T00:00`, { zone: 'Europe/Rome' }).toMillis();
    const toUtc = localClock('Europe/Rome');
    for (let i = 0; i < 40; i++) {
      const utc = start + i * 10 * MINUTE;
      expect(toUtc(utc + zoneOffsetMinutes('Europe/Rome', utc) * MINUTE)).toBe(utc);
    }
  }
});

test('a reading in the hour that was skipped is taken as if the clock had not been set forward', () => {
  const local = Date.UTC(2026, 2, 29, 2, 30);
  expect(localClock('Europe/Rome')(local)).toBe(Date.UTC(2026, 2, 29, 1, 30));
});

test('a zone that does not exist is told', () => {
  expect(isTimeZone('Europe/Rome')).toBe(true);
  expect(isTimeZone('Isole/Mirtane')).toBe(false);
  expect(() => localClock('Isole/Mirtane')).toThrow(/is not a time zone/);
});
