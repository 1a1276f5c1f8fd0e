/** Hours in which the battery was full although no charge shows it. */

import { HOUR, type Span } from '../quantity/span';
import { cellStart } from '../log/grid';
import type { Reference } from './reference';

/** As good as full, %, where the truth is known so well. */
const AS_GOOD = { percent: 97, deviation: 3 };

/** Full charges, and hours in which the battery was full although no stage shows it: a log of ten minutes has no short absorption. */
export function withFullHours(
  charges: readonly (Span & { full: boolean })[],
  { grid, percent, deviation }: Reference,
): (Span & { full: boolean })[] {
  const full: (Span & { full: boolean })[] = [];
  for (let k = 0; k < grid.count; k++) {
    if (!(percent[k]! >= AS_GOOD.percent && deviation[k]! <= AS_GOOD.deviation)) continue;
    const span = { from: cellStart(grid, k), to: cellStart(grid, k + 1), full: true };
    const last = full.at(-1);
    if (last && span.from - last.to <= 2 * HOUR) last.to = span.to;
    else full.push(span);
  }
  const more = full.filter(
    (one) =>
      one.to - one.from >= HOUR &&
      !charges.some((other) => other.from < one.to + HOUR && one.from - HOUR < other.to),
  );
  return [...charges, ...more].sort((a, b) => a.from - b.from);
}
