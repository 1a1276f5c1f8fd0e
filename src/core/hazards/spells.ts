/** Spells in which the samples of a log keep meeting a condition. */

import { gapLimit, medianStep } from '../log/grid';
import { lengthOf, type Span } from '../quantity/span';
import { duration } from '../quantity/text';

/** A short return to normal does not part a spell: as many samples may miss the condition. */
const MISSES = 2;

/**
 * @param time epoch ms, rising @param holds whether sample i meets the condition @param leastMs shorter spells are left out
 * @returns spells from their first to their last sample that meets it; a gap ends a spell. A single sample is none.
 */
export function spells(time: Float64Array, holds: (i: number) => boolean, leastMs: number): Span[] {
  const limit = gapLimit(medianStep(time));
  const found: Span[] = [];
  let from = -1;
  let last = -1;
  const close = () => {
    if (from >= 0 && last > from && time[last]! - time[from]! >= leastMs)
      found.push({ from: time[from]!, to: time[last]! });
    from = -1;
  };
  for (let i = 0; i < time.length; i++) {
    if (i > 0 && time[i]! - time[i - 1]! > limit) close();
    if (holds(i)) {
      if (from < 0) from = i;
      last = i;
    } else if (from >= 0 && i - last > MISSES) close();
  }
  close();
  return found;
}

/** "once, for 40 min", "3 times, 5 h 20 min in all". */
export function howOften(found: readonly Span[]): string {
  const total = duration(found.reduce((sum, one) => sum + lengthOf(one), 0));
  return found.length === 1 ? `once, for ${total}` : `${found.length} times, ${total} in all`;
}

/** Greatest of what `value` gives over the samples that lie in the spells. */
export function greatestIn(time: Float64Array, found: readonly Span[], value: (i: number) => number): number {
  let greatest = -Infinity;
  let k = 0;
  for (let i = 0; i < time.length && k < found.length; i++) {
    while (k < found.length && time[i]! > found[k]!.to) k++;
    if (k < found.length && time[i]! >= found[k]!.from && value(i) > greatest) greatest = value(i);
  }
  return greatest;
}
