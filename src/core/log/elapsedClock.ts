/** Moments of a log whose times count from a start. */

import { DAY, isUsualMoment } from '../quantity/span';

/** NaN for a moment at which no log was written. */
export const usualMoment = (ms: number): number => (isUsualMoment(ms) ? ms : NaN);

/** No device counts on for longer without a new start, ms. */
const LONGEST_COUNT = 50 * 365 * DAY;

/**
 * Moments of times that count from a start, the first of which is known. A clock that passes midnight goes on; a count that falls back
 * (the device was restarted) goes on one step after the row before.
 */
export function elapsedClock(startMs: number): (elapsed: number, ofDay: boolean) => number {
  let first = NaN;
  let last = NaN;
  let carried = 0;
  let step = 1000;
  return (elapsed, ofDay) => {
    if (!(elapsed >= 0 && elapsed < LONGEST_COUNT)) return NaN;
    if (first !== first) first = elapsed;
    else if (elapsed < last) {
      carried += ofDay && last - elapsed > DAY / 2 && last < DAY ? DAY : last - elapsed + step;
    } else if (elapsed > last) step = elapsed - last;
    last = elapsed;
    return usualMoment(startMs + carried + (elapsed - first));
  };
}
