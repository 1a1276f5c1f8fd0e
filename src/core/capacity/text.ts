/** What capacity tests and discharges show, in sentences: for the page, the report and the terminal. */

import { ampHours, amps, dayText, duration, percent } from '../quantity/text';
import { DAY, HOUR } from '../quantity/span';
import type { JudgedTest } from './judge';
import { END_OF_LIFE } from './plan';

/** A battery in good order is tested so often; one that has lost a tenth, or is below nine tenths, each year (IEEE Std 450, from memory). */
const EVERY = { good: 5 * 365, falling: 365 };
const FALLING = { percent: 90, by: 10 };

/** One test in a sentence or two. */
export function testText({
  test,
  drawn,
  percent: holds,
  band,
  isAtItsEnd,
  byCell,
  isComplete,
}: JudgedTest): string {
  const least = isComplete && test.wasFull !== false ? '' : 'at least ';
  const found = `Capacity test of ${dayText(test.on)}: ${ampHours(drawn.ampHours)} in ${duration(drawn.hours * HOUR)} at ${amps(drawn.amps)}, ${least}${percent(holds)} of the rating at 25 °C (± ${Math.round(band)}).`;
  const means =
    isAtItsEnd === null
      ? ''
      : isAtItsEnd
        ? ` Under ${END_OF_LIFE} %: a battery at its end.`
        : holds < FALLING.percent && isComplete
          ? ` Above ${END_OF_LIFE} %, and falling: test it each year.`
          : '';
  return `${found}${means}${byCell === null ? '' : ` One cell (${byCell}) ended it before the bank did.`}`;
}

/** The day of the next test; null before the first. */
export function nextTestOn(tests: readonly JudgedTest[]): string | null {
  const complete = tests.filter((one) => one.isComplete);
  const last = complete.at(-1);
  if (!last) return null;
  const before = complete.at(-2);
  const isFalling =
    last.percent < FALLING.percent || (before !== undefined && before.percent - last.percent > FALLING.by);
  return new Date(Date.parse(last.test.on) + (isFalling ? EVERY.falling : EVERY.good) * DAY)
    .toISOString()
    .slice(0, 10);
}

export const capacityText = (tests: readonly JudgedTest[]): string[] => {
  const due = nextTestOn(tests);
  return [
    ...tests.slice(-3).map(testText),
    ...(tests.at(-1)?.weak ?? []),
    ...(due ? [`Next capacity test due on ${dayText(due)}.`] : []),
  ];
};
