/** What kind of device a percentage looks to come from: what the causes of other kinds than a shunt share. */

import type { Counting, Jump } from '../count/types';
import { median } from '../quantity/numbers';

/** Jumps end within so many points of each other, and lie so far from full and empty. */
const SAME = 2.5;
const BETWEEN = { least: 50, most: 97 };

/** A reading that always jumps from full is not reset, whatever was in the battery. */
const FROM_FULL = 99.5;

/** Jumps to a value under full, and those that go to one and the same; none of these where they are few of them, or all from full. */
export function resetsIn({ jumps }: Counting): { within: Jump[]; same: Jump[] } {
  const within = jumps.filter(
    (one) =>
      one.to >= BETWEEN.least &&
      one.to <= BETWEEN.most &&
      one.silentMs === 0 &&
      // No bulk ends, and sets the reading down, while the battery is drawn on.
      !(one.drawn && one.to < one.from),
  );
  const middle = median(within.map((one) => one.to));
  const same = within.filter((one) => Math.abs(one.to - middle) <= SAME);
  const reset = same.length >= 0.6 * within.length && same.some((one) => one.from < FROM_FULL);
  return { within, same: reset ? same : [] };
}

/** A voltage that tells so much of the reading, where what flows tells so little, is what it is made from. */
const TOLD = { volts: 0.8, flow: 0.8 };
/** The same voltage gives the same reading, where what flows does not. */
export const isMadeFromVolts = ({ followsVolts: found, behaves }: Counting): boolean =>
  found !== null && found.told > TOLD.volts && behaves !== null && behaves.explained < TOLD.flow;
