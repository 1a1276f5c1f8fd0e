/** Hours in which a battery is past empty: what it still gives then is beyond what it is said to hold. */

import type { Span } from '../quantity/span';
import { cellStart, type Grid } from '../log/grid';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';

/**
 * V a block at which a battery is past empty, at next to no current, and what it may be lower by, V for a current that would empty it in an
 * hour: lead ends at 1.8 V a cell over twenty hours and at 1.75 V over five, lithium at 2.5 V (common practice, no source). Below the
 * least the bus is dead; above so much of the capacity in A a voltage says nothing.
 */
const PAST = { lead: 10.8, lithium: 10, falls: 3, dead: 3, most: 0.1 };

/**
 * @param amps into the battery on the grid, A @param volts of the bank on the grid
 * @returns from when its voltage is past the end until something flows in again
 */
export function spentSpans(bank: KnownBank, grid: Grid, amps: Float32Array, volts: Float32Array): Span[] {
  const blocks = blocksInSeries(bank);
  const end = isLead(bank.chemistry) ? PAST.lead : PAST.lithium;
  const found: Span[] = [];
  let isPast = false;
  for (let cell = 0; cell < grid.count; cell++) {
    const part = amps[cell]! / bank.capacityAh;
    const perBlock = volts[cell]! / blocks;
    if (part !== part || perBlock !== perBlock) continue;
    if (part > 0 || perBlock < PAST.dead) isPast = false;
    else if (part > -PAST.most) isPast = perBlock <= end + PAST.falls * part;
    if (!isPast) continue;
    const last = found.at(-1);
    if (last && last.to === cellStart(grid, cell)) last.to = cellStart(grid, cell + 1);
    else found.push({ from: cellStart(grid, cell), to: cellStart(grid, cell + 1) });
  }
  return found;
}
