/** The moments at which a lithium battery comes to an end: a cell near full, or near empty. */

import { median } from '../quantity/numbers';
import { DAY, HOUR } from '../quantity/span';
import type { CellLog } from './cellLog';
import type { Middle } from './middle';
import type { FirstAtEnd } from './types';

/** A lithium cell under the first is near its empty end, over the other near its full end, V (common practice, no source). */
const ENDS = { bottom: 3.0, top: 3.45 };
/** One end counts once in so long. */
const EVERY = 3 * HOUR;

export interface End {
  /** Sample. */
  index: number;
  /** The first cell there, by its column. */
  cell: number;
  /** V from the mean of all. */
  apart: number;
}

export interface Ends {
  tops: End[];
  bottoms: End[];
}

/** The furthest moment of each stretch beyond an end. */
export function endsOf({ time }: Pick<CellLog, 'time'>, seen: Middle): Ends {
  const tops: End[] = [];
  const bottoms: End[] = [];
  let top = -1;
  let bottom = -1;
  const close = () => {
    if (top >= 0)
      tops.push({ index: top, cell: seen.mostAt[top]!, apart: seen.most[top]! - seen.mean[top]! });
    top = -1;
  };
  const closeLow = () => {
    if (bottom >= 0)
      bottoms.push({
        index: bottom,
        cell: seen.leastAt[bottom]!,
        apart: seen.mean[bottom]! - seen.least[bottom]!,
      });
    bottom = -1;
  };
  for (let i = 0; i < time.length; i++) {
    if (seen.mean[i]! !== seen.mean[i]!) continue;
    if (top >= 0 && time[i]! - time[top]! > EVERY) close();
    if (bottom >= 0 && time[i]! - time[bottom]! > EVERY) closeLow();
    if (seen.most[i]! > ENDS.top && !(top >= 0 && seen.most[top]! >= seen.most[i]!)) top = i;
    if (seen.least[i]! < ENDS.bottom && !(bottom >= 0 && seen.least[bottom]! <= seen.least[i]!)) bottom = i;
  }
  close();
  closeLow();
  return { tops, bottoms };
}

/** The highest that the cells came on each day: of batteries that never come near full, the nearest to it. */
export function highsOf({ time }: Pick<CellLog, 'time'>, { middle }: Pick<Middle, 'middle'>): number[] {
  const highs = new Map<number, number>();
  for (let i = 0; i < time.length; i++) {
    const day = Math.floor(time[i]! / DAY);
    const high = highs.get(day);
    if (high === undefined ? middle[i]! === middle[i]! : middle[i]! > middle[high]!) highs.set(day, i);
  }
  return [...highs.values()];
}

/** The cell that was there most often; null where no end was seen. */
export function firstAt(ends: readonly End[], names: readonly string[]): FirstAtEnd | null {
  const counts = new Map<number, number>();
  for (const { cell } of ends) counts.set(cell, (counts.get(cell) ?? 0) + 1);
  const [most] = [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
  if (!most) return null;
  return {
    cell: names[most[0]]!,
    times: most[1],
    of: ends.length,
    apart: median(ends.filter((one) => one.cell === most[0]).map((one) => one.apart)),
  };
}
