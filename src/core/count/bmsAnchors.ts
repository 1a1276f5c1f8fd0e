/** What the BMS tells of the state: what it counts itself, and a trip by a low cell. */

import { HOUR } from '../quantity/span';
import { cellStart, type Grid, toGrid } from '../log/grid';
import { logOf, type Timeline } from '../log/timeline';
import { refusalsOf } from '../charge/refusals';
import type { Anchor } from './anchors';

/** A BMS counts its own cells: trusted before the monitor, though not without bounds. */
const BMS = { every: 6 * HOUR, deviation: 0.05 };

export function bmsAnchors(timeline: Timeline, grid: Grid): Anchor[] {
  const bms = logOf(timeline, 'bms', 'soc');
  if (!bms) return [];
  const reading = toGrid(bms.time, bms.channels.soc!, grid);
  const found: Anchor[] = [];
  let last = -Infinity;
  for (let cell = 0; cell < grid.count; cell++) {
    const at = cellStart(grid, cell);
    if (reading[cell]! !== reading[cell]! || at - last < BMS.every) continue;
    found.push({ kind: 'bms', at, until: at, charge: reading[cell]! / 100, deviation: BMS.deviation });
    last = at;
  }
  return found;
}

/**
 * A low-cell trip of the BMS with the mean of all cells near the knee: the whole battery is as good as empty, V a cell (common practice,
 * no source). With a healthy mean it says something of that cell alone.
 */
const TRIP = { lowest: 2.9, mean: 3.05, charge: 0.04, deviation: 0.05 };

export function tripAnchors(timeline: Timeline): Anchor[] {
  const trips = refusalsOf(timeline, 'bms_discharge_allowed') ?? [];
  return trips
    .filter((one) => one.lowestV <= TRIP.lowest && one.meanAtLowestV <= TRIP.mean)
    .map(({ from }) => ({
      kind: 'empty',
      at: from,
      until: from,
      charge: TRIP.charge,
      deviation: TRIP.deviation,
    }));
}
