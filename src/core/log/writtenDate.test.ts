/** Dates that are not three numbers, as whole logs and as single cells. */

import { DAY } from '../quantity/span';
import { takeInLog } from './takeIn';
import { numberedDate } from './writtenDate';

const HALF_PAST_SIX = Date.UTC(2026, 8, 21, 6, 30);
const timesOf = (cells: string[], zone = 'UTC') =>
  takeInLog(
    new TextEncoder().encode(`time;battery voltage (V)\n${cells.map((cell) => `${cell};12.4`).join('\n')}\n`),
    'monitor',
    { device: 'monitor' },
    zone,
  ).series.time;

test.each([
  ['the month by its name', (hh: string) => `21-Sep-26 ${hh}:30`],
  ['a German month', (hh: string) => `21. September 2026 ${hh}:30:00`],
  ['the month first', (hh: string) => `Sep 21, 2026 ${hh}:30`],
  ['with a weekday and Greenwich', (hh: string) => `Mon, 21 Sep 2026 ${hh}:30:00 GMT`],
  ['the year first', (hh: string) => `2026-Sep-21 ${hh}:30:00`],
  ['the year last', (hh: string) => `Mon Sep 21 ${hh}:30:00 2026`],
  ['a web server’s', (hh: string) => `21/Sep/2026:${hh}:30:00 +0000`],
  ['run together', (hh: string) => `20260921T${hh}3000`],
  ['run together, with Greenwich', (hh: string) => `20260921T${hh}3000Z`],
  ['fourteen figures', (hh: string) => `20260921${hh}3000`],
  ['an underscore between', (hh: string) => `2026-09-21_${hh}:30:00`],
  ['a dash between', (hh: string) => `21.09.2026-${hh}:30:00`],
  ['h for the hours', (hh: string) => `2026-09-21 ${hh}h30`],
])('%s', (_, write) => {
  expect([...timesOf(['06', '07', '08', '21'].map(write))]).toEqual(
    [0, 1, 2, 15].map((hours) => HALF_PAST_SIX + hours * 3_600_000),
  );
});

test('a zone that the log names is its offset, whatever the zone of the system', () => {
  const written = (zone: string) =>
    ['06:30', '06:40', '06:50'].map((clock) => `2026-09-21 ${clock}:00 ${zone}`);
  for (const [zone, hours] of [
    ['UTC', 0],
    ['GMT', 0],
    ['CEST', -2],
    ['MESZ', -2],
    ['EST', 5],
    ['UTC+02:00', -2],
  ] as const)
    expect(timesOf(written(zone), 'Asia/Tokyo')[0]).toBe(HALF_PAST_SIX + hours * 3_600_000);
  // Before the year too.
  const yearLast = ['06:30', '06:40', '06:50'].map((clock) => `Mon Sep 21 ${clock}:00 UTC 2026`);
  expect(timesOf(yearLast, 'Asia/Tokyo')[0]).toBe(HALF_PAST_SIX);
});

test.each([
  ['2 gen 2026', '2026-01-02'],
  ['2 févr. 2026', '2026-02-02'],
  ['2. März 2026', '2026-03-02'],
  ['2 abr 2026', '2026-04-02'],
  ['2 mei 2026', '2026-05-02'],
  ['2 juin 2026', '2026-06-02'],
  ['2 juil. 2026', '2026-07-02'],
  ['2 août 2026', '2026-08-02'],
  ['2nd Sep 2026', '2026-09-02'],
  ['2 ottobre 2026', '2026-10-02'],
  ['2-nov-26', '2026-11-02'],
  ['2. Dez 2026', '2026-12-02'],
])('%s is %s', (cell, date) => {
  expect(numberedDate(cell)).toBe(date);
});

test.each([
  '',
  'bulk',
  'cell 12 bar',
  '1 may be',
  '20261321T063000',
  '20260932063000',
  '2026-09-21 06:30:00',
  '12.40',
])('%j is none', (cell) => {
  expect(numberedDate(cell)).toBeNull();
});

test('a date by name in one column and the clock in another', () => {
  const { series } = takeInLog(
    new TextEncoder().encode(
      'date;time;battery voltage (V)\n21 Sep 2026;06:30:00;12.4\n21 Sep 2026;06:31:00;12.5\n22 Sep 2026;06:30:00;12.5\n',
    ),
    'monitor',
    { device: 'monitor' },
    'UTC',
  );
  expect([...series.time]).toEqual([HALF_PAST_SIX, HALF_PAST_SIX + 60_000, HALF_PAST_SIX + DAY]);
});
