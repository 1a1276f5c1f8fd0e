import fc from 'fast-check';
import { diagnose } from '../diagnosis/diagnose';
import { demoSystem } from '../simulate/demo';
import { LogAsks } from './answers';
import { takeInLog } from './takeIn';
import { strayRows } from './strayRows';

const MINUTE = 60_000;
const START = Date.UTC(2026, 8, 21, 6, 30);
const iso = (ms: number) => new Date(ms).toISOString();
const row = (ms: number, i = 0) => `${iso(ms)},${(12.4 + (i % 10) / 100).toFixed(2)},${(i % 7) - 3}`;
const HEADINGS = 'time,battery voltage (V),battery current (A)';
const read = (rows: readonly string[], answer?: 'leave-out' | 'keep') =>
  takeInLog(
    new TextEncoder().encode([HEADINGS, ...rows, ''].join('\n')),
    'monitor',
    { device: 'monitor', ...(answer ? { strayRows: answer } : {}) },
    'UTC',
  );
const usual = (count: number) => Array.from({ length: count }, (_, i) => row(START + i * MINUTE, i));
const year = (to: number) => Date.UTC(to, 8, 21, 9);

test.each([
  ['a century ahead', 2126, '100 years after'],
  ['as far as clocks go', 2199, '173 years after'],
  ['a year back', 2025, '365 days before'],
])('one row %s is set aside with its line, its row and the reason', (_, to, distance) => {
  const rows = usual(400);
  rows[200] = row(year(to));
  const { series, problems, problemCount } = read(rows);
  expect(series.time).toHaveLength(399);
  expect(problemCount).toBe(1);
  expect(problems[0]).toMatchObject({ line: 202, row: rows[200] });
  expect(problems[0]!.reason).toMatch(
    new RegExp(`^Its time, ${to}-09-21, lies ${distance} the rest of the log \\(2026-09-21 to 2026-09-21\\)`),
  );
});

test('the first row and the last may be the stray ones', () => {
  for (const at of [0, 399]) {
    const rows = usual(400);
    rows[at] = row(year(2126));
    const { series, problems } = read(rows);
    expect([series.time.length, problems[0]!.line]).toEqual([399, at + 2]);
  }
});

test('a year that no clock shows is an unreadable time', () => {
  const rows = usual(20);
  rows[7] = rows[7]!.replace('2026', '9999');
  rows[8] = rows[8]!.replace('2026', '1026');
  rows[9] = rows[9]!.replace('Z', '+99:99');
  const { series, problems } = read(rows);
  expect(series.time).toHaveLength(17);
  expect(problems.map((one) => one.line)).toEqual([9, 10, 11]);
  for (const one of problems) expect(one.reason).toMatch(/^No time could be read in /);
});

test('epoch cells with extra digits are unreadable, never a time', () => {
  const rows = Array.from({ length: 20 }, (_, i) => `${(START + i * MINUTE) / 1000},12.4,1`);
  rows[5] = rows[5]!.replace(/^(\d+)/, '$1000');
  rows[6] = rows[6]!.replace(/^(\d+)/, '$1e300');
  const { series, problems } = read(rows);
  expect(series.time).toHaveLength(18);
  expect(problems.map((one) => one.line)).toEqual([7, 8]);
});

test.each(['1e300', 'Infinity', '-Infinity', '1e308', '0x1F', '0b11', '9999999999999', '12.4.4'])(
  'the cell %s is told and taken as missing',
  (cell) => {
    const rows = usual(20);
    rows[3] = `${iso(START + 3 * MINUTE)},${cell},2`;
    const { series, problems } = read(rows);
    expect(series.channels.battery_voltage![3]).toBeNaN();
    expect(series.channels.battery_current![3]).toBe(2);
    expect(problems).toHaveLength(1);
    expect(problems[0]).toMatchObject({ line: 5, row: rows[3] });
    expect(problems[0]!.reason).toContain('the cell is taken as missing');
  },
);

test('many rows far from the rest are asked about, and read as answered', () => {
  const rows = usual(400).map((one, i) => (i >= 250 ? one.replace('2026', '2001') : one));
  expect(() => read(rows)).toThrow(LogAsks);
  expect(() => read(rows)).toThrow(/150 of 400 rows are of 2001-09-21 .*strayRows: "leave-out" or "keep"/);
  const left = read(rows, 'leave-out');
  expect([left.series.time.length, left.problemCount]).toEqual([250, 150]);
  expect(left.problems.map((one) => one.line)).toEqual(Array.from({ length: 150 }, (_, i) => i + 252));
  const kept = read(rows, 'keep');
  expect([kept.series.time.length, kept.problems.map((one) => one.reason)]).toEqual([
    400,
    ['The times go back once; the rows were put in order.'],
  ]);
});

test('a log that is whole in a strange year has no stray rows: its clock is off', () => {
  for (const to of ['1970', '2000', '2106'])
    expect(read(usual(50).map((one) => one.replace('2026', to)))).toMatchObject({
      problemCount: 0,
      rows: 50,
    });
});

test('a log with a silence of half a year in it is one log', () => {
  const rows = [...usual(50), ...usual(50).map((one) => one.replace('2026-09', '2027-03'))];
  expect(read(rows)).toMatchObject({ problemCount: 0, rows: 100 });
});

test('whatever the times, a row is kept or has its reason', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: Date.UTC(2199, 11, 31) }), { minLength: 1, maxLength: 60 }),
      (list) => {
        const stray = strayRows(Float64Array.from(list), 'leave-out');
        expect(new Set(stray.map((one) => one.row)).size).toBe(stray.length);
        expect(stray.length).toBeLessThan(list.length);
        for (const one of stray) expect(one.reason).toMatch(/ left out\.$/);
        expect(strayRows(Float64Array.from(list), 'keep')).toEqual([]);
      },
    ),
  );
});

test('rows that are kept a century apart are judged without a grid over the century', () => {
  const { system, job } = demoSystem('harbour-office');
  const rows = [...usual(3000), ...usual(3000).map((one) => one.replace('2026', '2126'))];
  const { series } = read(rows, 'keep');
  const before = process.memoryUsage().arrayBuffers;
  const { charges } = diagnose({ job, system, series: [series] });
  expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(200 * 2 ** 20);
  for (const one of charges) expect(one.from <= one.to).toBe(true);
});
