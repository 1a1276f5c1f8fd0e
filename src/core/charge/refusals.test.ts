/** When a BMS let no charge out, by a flag that not every row carries. */

import { timelineOf } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { refusalsOf } from './refusals';

const refusals = (flag: (i: number) => number, silent: (i: number) => boolean = () => false) => {
  const rows = Array.from({ length: 300 }, (_, i) => i).filter((i) => !silent(i));
  const series = {
    device: 'bms',
    time: Float64Array.from(rows, (i) => i * MINUTE),
    channels: { bms_discharge_allowed: Float32Array.from(rows, flag) },
  };
  return refusalsOf(timelineOf([series]), 'bms_discharge_allowed')!.map(({ from, to, beginSeen }) => [
    from / MINUTE,
    to / MINUTE,
    beginSeen,
  ]);
};
const stopped = (i: number): number => (i >= 100 && i < 160 ? 0 : 1);

test('a stop goes from the row that refuses to the row that allows again', () => {
  expect(refusals(stopped)).toEqual([[100, 160, true]]);
});

test('rows without the flag neither end a stop nor begin another', () => {
  expect(refusals((i) => (i % 3 === 1 ? NaN : stopped(i)))).toEqual([[101, 161, true]]);
});

test('after a silence a stop that goes on did not begin there', () => {
  const silent = (i: number) => i >= 120 && i < 130;
  const parts = [
    [100, 119, true],
    [130, 160, false],
  ];
  expect(refusals(stopped, silent)).toEqual(parts);
  expect(refusals((i) => (silent(i) ? NaN : stopped(i)))).toEqual(parts);
});

test('a log that begins with a refusal does not say when that began', () => {
  expect(refusals((i) => (i < 30 ? 0 : 1))).toEqual([[0, 30, false]]);
});
