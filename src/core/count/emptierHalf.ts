/** A bank is as full as its emptier half: the state of both halves, where the unseen one can be followed too. */

import { isNumber, median } from '../quantity/numbers';
import { cellStart } from '../log/grid';
import { HOUR } from '../quantity/span';
import type { Reference } from './reference';

/** What the half that the monitor does not see held beside the other, %. */
export interface OtherHalf {
  part: 'lower' | 'upper';
  /** Points by which the seen half stood above it, in the middle of the time that both are known. */
  above: number;
  hours: number;
  /** At the last moment of it: epoch ms, and what the two held. */
  at: number;
  seen: number;
  other: number;
}

/** Of two halves the emptier at each moment; what is measured besides is that of the seen one. */
export function emptierOf(seen: Reference, other: Reference): Reference {
  const take = (of: 'percent' | 'deviation') =>
    seen[of].map((one, k) => (other.percent[k]! < seen.percent[k]! ? other[of][k]! : one));
  return { ...seen, percent: take('percent'), deviation: take('deviation') };
}

/** Both are known well enough to be held beside each other, %, for so many hours. */
const KNOWN = { deviation: 8, hours: 24 };

/** Null where one of them is not known for a day. */
export function otherHalfOf(part: OtherHalf['part'], seen: Reference, other: Reference): OtherHalf | null {
  const { grid } = seen;
  const apart = Array.from(seen.percent, (percent, k) =>
    seen.deviation[k]! < KNOWN.deviation && other.deviation[k]! < KNOWN.deviation
      ? percent - other.percent[k]!
      : NaN,
  );
  const last = apart.findLastIndex(isNumber);
  const hours = (apart.filter(isNumber).length * grid.step) / HOUR;
  if (hours < KNOWN.hours) return null;
  return {
    part,
    above: median(apart.filter(isNumber)),
    hours,
    at: cellStart(grid, last + 1),
    seen: seen.percent[last]!,
    other: other.percent[last]!,
  };
}
