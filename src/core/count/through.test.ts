/** What a gap of the log leaves open. */

import { HOUR, MINUTE } from '../quantity/span';
import { judgingGrid } from '../log/grid';
import { sum } from '../quantity/numbers';
import { throughOf } from './through';

/** Ten days of minutes at 0.5 A, with an hour at 60 A out of the battery at eight in the evening; hours in which the log is silent. */
function through(silent: (hour: number) => boolean, lacks: (hour: number) => boolean = () => false) {
  const time = Float64Array.from({ length: 10 * 1440 }, (_, i) => i * MINUTE).filter(
    (at) => !silent(at / HOUR),
  );
  const amps = Array.from(time, (at) =>
    lacks(at / HOUR) ? NaN : Math.floor(at / HOUR) % 24 === 20 ? -60 : 0.5,
  );
  const grid = judgingGrid({ from: 0, to: 240 * HOUR }, 5 * MINUTE, time);
  return throughOf(time, amps, grid);
}

test('a gap may hide what flows in so long at other times, though nothing did beside it', () => {
  const { hidden, hiddenError } = through((hour) => hour >= 67 && hour < 70);
  const cell = hiddenError.findIndex((one) => one > 0);
  expect(hidden[cell]).toBeCloseTo(1.5, 1);
  // Of the windows of three hours an eighth and a sixth hold all and a part of it: 60 Ah, about 22 as the root of the mean square.
  expect(hiddenError[cell]).toBeGreaterThan(15);
  expect(hiddenError[cell]).toBeLessThan(30);
  expect(hiddenError.filter((one) => one > 0)).toHaveLength(1);
});

test('a log without gaps hides nothing', () => {
  const { hidden, hiddenError } = through(() => false);
  expect(Math.max(...hidden, ...hiddenError)).toBe(0);
});

test('rows that lack the current hide as much as rows that were not written', () => {
  const silent = (hour: number) => hour >= 67 && hour < 70;
  const [missing, lacking] = [through(silent), through(() => false, silent)];
  const of = ({ hidden, hiddenError }: typeof missing) => [sum(hidden), sum(hiddenError)];
  expect(of(lacking)[0]).toBeCloseTo(of(missing)[0]!, 6);
  expect(of(lacking)[1]).toBeCloseTo(of(missing)[1]!, 6);
  // A minute here and there hides nothing.
  const seldom = through(
    () => false,
    (hour) => Math.round(hour * 60) % 7 === 3,
  );
  expect(sum(seldom.hiddenError)).toBe(0);
  expect(sum(seldom.in)).toBeCloseTo(sum(through(() => false).in), 1);
});
