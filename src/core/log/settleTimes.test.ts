import fc from 'fast-check';
import { settleTimes } from './settleTimes';

const MINUTE = 60_000;
const START = Date.UTC(2026, 8, 21, 6, 30);
const minutes = (...list: number[]) => Float64Array.from(list, (one) => START + one * MINUTE);
const differ = () => false;
const settle = (time: Float64Array, same: (a: number, b: number) => boolean = differ) =>
  settleTimes(time, time.length, same);

test('rising times are left as they are', () => {
  const time = minutes(0, 1, 2, 5);
  expect(settle(time)).toEqual({ time, from: null, notes: [], lost: 0, stray: [] });
});

test('rows out of order are put in order, and said', () => {
  const { time, from, notes, lost } = settle(minutes(0, 3, 1, 2));
  expect(time).toEqual(minutes(0, 1, 2, 3));
  expect(Array.from(from!)).toEqual([0, 2, 3, 1]);
  expect(notes).toEqual(['The times go back once; the rows were put in order.']);
  expect(lost).toBe(0);
});

test('rows that come twice are kept once', () => {
  const { from, notes, lost } = settle(minutes(0, 1, 2, 1, 3), () => true);
  expect(Array.from(from!)).toEqual([0, 1, 2, 4]);
  expect(lost).toBe(1);
  expect(notes.join(' ')).toMatch(/1 row repeats a time/);
});

test('six rows a minute with times to the minute are spread evenly over it', () => {
  const { time, notes, lost } = settle(minutes(0, 0, 0, 1, 1, 1, 2, 2, 2));
  expect(Array.from(time, (one) => (one - START) / 1000)).toEqual([0, 20, 40, 60, 80, 100, 120, 140, 160]);
  expect(notes).toEqual([
    'Times are written too coarsely for how often was sampled: 6 rows that shared a time with others were spread evenly over it.',
  ]);
  expect(lost).toBe(0);
});

test('a clock that fell back to its epoch: those rows are left out and said', () => {
  const time = Float64Array.from([...minutes(0, 1), 0, MINUTE, ...minutes(4, 5, 6)]);
  const { time: kept, notes, lost, stray } = settle(time);
  expect(kept).toEqual(minutes(0, 1, 4, 5, 6));
  expect([lost, notes]).toEqual([0, []]);
  expect(stray.map((one) => one.row)).toEqual([2, 3]);
  expect(stray[0]!.reason).toMatch(/^Its time, 1970-01-01, is of a clock that had fallen back to its epoch/);
  // At the start of a log as well.
  const early = Float64Array.from([0, MINUTE, ...minutes(4, 5, 6)]);
  expect(settle(early).time).toEqual(minutes(4, 5, 6));
});

test('whatever the times, what comes out rises, and nothing is lost without a word', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -3, max: 30 }), { maxLength: 40 }),
      fc.boolean(),
      (list, alike) => {
        const given = minutes(...list);
        const { time, from, notes, lost } = settle(given, () => alike);
        for (let i = 1; i < time.length; i++) expect(time[i]!).toBeGreaterThan(time[i - 1]!);
        expect(time.length + lost).toBe(given.length);
        if (from) expect(new Set(from).size).toBe(time.length);
        if (lost > 0) expect(notes.length).toBeGreaterThan(0);
      },
    ),
  );
});
