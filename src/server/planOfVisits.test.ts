/** The calendar: RFC 5545 (from memory) asks for CRLF, VCALENDAR about all, an event with UID, DTSTAMP and DTSTART, and folded lines. */

import { groupsOf } from '@/ui/plan/groups';
import type { Planned } from '@/core/plan/due';
import { calendarOf } from './planOfVisits';

const one: Planned = {
  systemId: 'aaaaaaaa-0000-4000-8000-000000000001',
  jobId: 'bbbbbbbb-0000-4000-8000-000000000001',
  system: 'Seismic vault, Monte Fermo; lower room',
  what: 'full-charge',
  on: '2026-12-31',
  why: 'To set the reading right, every week.',
};

test('an all-day event of a day, named the same at each fetch, its commas and semicolons escaped', () => {
  const text = calendarOf([one]);
  const lines = text.replace(/\r\n[ \t]/g, '').split('\r\n');
  expect(lines[0]).toBe('BEGIN:VCALENDAR');
  expect(lines.filter((line) => line !== '').at(-1)).toBe('END:VCALENDAR');
  expect(lines).toContain(`UID:${one.systemId}-full-charge@pazienza`);
  expect(lines).toContain('DTSTART;VALUE=DATE:20261231');
  expect(lines).toContain('DTEND;VALUE=DATE:20270101');
  expect(lines).toContain('SUMMARY:Full charge: Seismic vault\\, Monte Fermo\\; lower room');
  expect(lines.some((line) => /^DTSTAMP:\d{8}T\d{6}Z$/.test(line))).toBe(true);
  expect(text.split('\r\n').every((line) => Buffer.byteLength(line) <= 75)).toBe(true);
  expect(calendarOf([])).not.toContain('VEVENT');
});

test('the plan by when it is due', () => {
  const on = (day: string) => ({ ...one, on: day });
  const groups = groupsOf(
    [on('2026-11-01'), on('2026-11-27'), on('2026-12-03'), on('2026-12-04'), on('2027-02-01')],
    '2026-11-27',
  );
  expect(groups.map(({ title, planned }) => [title, planned.map((each) => each.on)])).toEqual([
    ['Overdue', ['2026-11-01']],
    ['This week', ['2026-11-27', '2026-12-03']],
    ['Within thirty days', ['2026-12-04']],
    ['Later', ['2027-02-01']],
  ]);
});
