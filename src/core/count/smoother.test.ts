/** The smoother against the same problem answered in one piece by numpy: tests/reference/smoother.py makes the fixture. */

import fixture from '../../../tests/reference/smoother.json';
import { smooth } from './smoother';

const motion = {
  ...fixture.motion,
  drive: Float64Array.from(fixture.motion.drive),
  rows: Float64Array.from(fixture.motion.rows),
  noise: Float64Array.from(fixture.motion.noise),
};

test('levels, constants, their covariance and the evidence are those of the joint distribution (numpy)', () => {
  const found = smooth(motion, fixture.measurements, fixture.start);
  fixture.level.forEach((level, k) => expect(found.level[k]).toBeCloseTo(level, 9));
  fixture.deviation.forEach((deviation, k) => expect(found.deviation[k]).toBeCloseTo(deviation, 9));
  fixture.constants.forEach((one, k) => expect(found.state[k + 1]).toBeCloseTo(one, 9));
  fixture.covariance.forEach((row, i) =>
    row.forEach((one, j) => expect(found.covariance[i + 1]![j + 1]).toBeCloseTo(one, 9)),
  );
  expect(found.evidence).toBeCloseTo(fixture.evidence, 7);
});

test('without a measurement nothing is learnt, and doubt grows with each step', () => {
  const { level, deviation, state } = smooth(motion, [], fixture.start);
  expect(Array.from(state.slice(1))).toEqual(fixture.start.state.slice(1));
  expect(deviation[motion.steps - 1]!).toBeGreaterThan(deviation[0]!);
  const first =
    fixture.start.state[0]! +
    motion.drive[0]! +
    motion.rows[0]! * fixture.start.state[1]! +
    motion.rows[1]! * fixture.start.state[2]! +
    motion.rows[2]! * fixture.start.state[3]!;
  expect(level[0]).toBeCloseTo(first, 12);
});

test('a measurement without doubt is met', () => {
  const { level } = smooth(motion, [{ step: 30, value: 0.42, deviation: 1e-6, h: [1] }], fixture.start);
  expect(level[30]).toBeCloseTo(0.42, 5);
});
