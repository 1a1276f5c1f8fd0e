import { boundsAt, interpolateAt } from './interpolateAt';

const MINUTE = 60_000;
const time = Float64Array.from([0, 1, 2, 3, 9, 10], (one) => one * MINUTE);
const values = Float32Array.from([0, 10, 10, 40, 20, 20]);
const at = Float64Array.from([-0.5, 0, 0.5, 1, 2.25, 3, 5, 9, 9.5, 10, 10.5], (one) => one * MINUTE);

test('between two rows lies the line; in a gap and beyond the ends nothing is known', () => {
  expect([...interpolateAt(time, values, at)]).toEqual([NaN, 0, 5, 10, 17.5, 40, NaN, 20, 20, 20, NaN]);
});

test('what steps from one row to the next has done so at any time between', () => {
  const { line, least, most } = boundsAt(time, values, at);
  expect(line).toEqual(interpolateAt(time, values, at));
  expect([...least]).toEqual([NaN, 0, 0, 10, 10, 40, NaN, 20, 20, 20, NaN]);
  expect([...most]).toEqual([NaN, 0, 10, 10, 40, 40, NaN, 20, 20, 20, NaN]);
});
