import { seededRandom } from '../simulate/random';
import { type AsOne, seenOfThose } from './movesAsOne';

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
