/** What nobody counts does not flow evenly: by how much the state may be off meanwhile. */

import { clamp } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { cellOf, type Grid } from '../log/grid';
import { type Anchor, cellOfAnchor } from './anchors';

/**
 * A zero that is off by more than so many times what is usual may be a load or a charger that nobody counts, on for hours and off for hours:
 * how much of it may be away from where an even flow has it, parts, over so many hours at most (an estimate, no source).
 */
const UNEVEN = { zeros: 4, part: 0.4, most: 12 };

/**
 * Ah by which an even flow may be wrong at the end of each cell, one standard deviation: the more the further from when the battery was
 * full, or empty. Null where the flow is as small as a meter's zero.
 * @param amps that the meter shows too much @param zero what is usual of a meter, A
 */
export function unevenly(
  amps: number,
  zero: number,
  anchors: readonly Anchor[],
  grid: Grid,
): Float64Array | null {
  if (Math.abs(amps) <= UNEVEN.zeros * zero) return null;
  const hours = new Float64Array(grid.count).fill(Infinity);
  // A rest says little where something may be drawing that nobody sees.
  for (const one of anchors.filter(({ kind }) => kind !== 'rest' && kind !== 'flat'))
    hours.fill(0, cellOfAnchor(grid, one), clamp(cellOf(grid, one.until), 0, grid.count - 1) + 1);
  const step = grid.step / HOUR;
  for (let k = 1; k < grid.count; k++) hours[k] = Math.min(hours[k]!, hours[k - 1]! + step);
  for (let k = grid.count - 2; k >= 0; k--) hours[k] = Math.min(hours[k]!, hours[k + 1]! + step);
  return hours.map((one) => UNEVEN.part * Math.abs(amps) * Math.min(one, UNEVEN.most));
}
