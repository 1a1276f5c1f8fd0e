/** What anchors say of the unknowns of a battery's motion, as rows for the smoother. */

import { cellOf, type Grid } from '../log/grid';
import { clamp } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { type Anchor, cellOfAnchor } from './anchors';
import type { Sinking } from './sinking';
import type { Measurement } from './smoother';

/** About this charge a table of rest voltages is steeper or flatter than the battery, parts of the capacity. */
const MIDDLE = 0.7;
/** By how much a lead battery that is kept at its tail still rises, parts of the capacity, and how soon (common practice, no source). */
const KEPT = { rises: 0.035, within: 3 * HOUR };

/** Rising by step. */
export const measurementsOf = (anchors: readonly Anchor[], grid: Grid, lead: boolean): Measurement[] =>
  anchors
    .flatMap((anchor): Measurement[] => {
      const step = cellOfAnchor(grid, anchor);
      const seen = { step, value: anchor.charge, deviation: anchor.deviation, h: rowOf(anchor) };
      if (anchor.kind !== 'full' || !lead) return [seen];
      const end = clamp(cellOf(grid, anchor.until), step, grid.count - 1);
      const value = anchor.charge + KEPT.rises * (1 - Math.exp((anchor.at - anchor.until) / KEPT.within));
      return end > step ? [seen, { ...seen, value, step: end }] : [seen];
    })
    .sort((a, b) => a.step - b.step);

/** The unknowns in the order of the motion's. */
function rowOf({ byTable, charge, lacks, zeroHours, atKnee }: Anchor): number[] {
  if (byTable) return [1, 0, 0, 0, 0, byTable, byTable * (charge - MIDDLE)];
  if (lacks || zeroHours) return [1, 0, 0, zeroHours ?? 0, 0, 0, 0, lacks ?? 0];
  return atKnee ? [1, 0, 0, 0, 1] : [1];
}

/** The capacity by the voltage that sinks, as its inverse is counted. @param c Ah that the motion counts by */
export const measurementsOfSinking = (sinking: Sinking | null, c: number): Measurement[] =>
  sinking
    ? [
        {
          step: 0,
          value: c / sinking.capacityAh - 1,
          deviation: (c * sinking.deviation) / sinking.capacityAh ** 2,
          h: [0, 1],
        },
      ]
    : [];
