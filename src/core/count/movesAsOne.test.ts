import { seededRandom } from '../simulate/random';
import { type AsOne, seenOfThose, sharesAsOne } from './movesAsOne';

/** Two controllers under the same clouds, the second four fifths of the first, and what the monitor makes of those that it sees. */
function roof(sees: [boolean, boolean], counted: [AsOne['counted'], AsOne['counted']]) {
  const random = seededRandom(5);
  const first = Float64Array.from({ length: 60 }, () => random.normal(0, 4));
  const second = first.map((one) => 0.8 * one + random.normal(0, 0.05));
  const values = first.map(
    (one, row) => (sees[0] ? one : 0) + (sees[1] ? second[row]! : 0) + random.normal(0, 0.1),
  );
  return seenOfThose(
    [
      { column: first, counted: counted[0] },
      { column: second, counted: counted[1] },
    ],
    values,
    1,
  );
}

test('half of the whole is the controller that is said to be counted', () => {
  expect(roof([true, false], [true, null])).toEqual([true, false]);
  expect(roof([false, true], [false, true])).toEqual([false, true]);
});

test('half of the whole may be half of both where both are said to be counted, or neither', () => {
  expect(roof([true, false], [true, true])).toBeNull();
  expect(roof([true, false], [null, null])).toBeNull();
});

test('what the description does not fit is left open', () => {
  expect(roof([true, true], [true, null])).toBeNull();
  expect(roof([false, false], [true, null])).toBeNull();
});

test('a third that moves by itself keeps its own share and takes no part', () => {
  const random = seededRandom(9);
  const first = Float64Array.from({ length: 60 }, () => random.normal(0, 4));
  const third = Float64Array.from({ length: 60 }, () => random.normal(0, 3));
  const values = first.map((one, row) => one + third[row]!);
  const devices: AsOne[] = [
    { column: first, counted: true },
    { column: third, counted: null },
    { column: first.map((one) => 0.8 * one), counted: null },
  ];
  const given = { shares: Float64Array.of(0.5, 1, 0.6), values, widen: 1 };
  const told = sharesAsOne(devices, { ...given, alone: [0, 0.9, 0] });
  expect(told.map((one) => one?.share)).toEqual([1, undefined, 0]);
  expect(sharesAsOne(devices, { ...given, alone: [0, 0.9, 0.9] })).toEqual([]);
});
