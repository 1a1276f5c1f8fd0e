/** Moments at which the state of charge is known from something else than the count, each with what it may be off by. */

import { clamp } from '../quantity/numbers';
import { cellOf, type Grid } from '../log/grid';

export const ANCHOR_KINDS = ['full', 'absorption', 'float', 'rest', 'flat', 'empty', 'bms'] as const;
export type AnchorKind = (typeof ANCHOR_KINDS)[number];

export interface Anchor {
  kind: AnchorKind;
  at: number;
  /** Until when the charger keeps the battery there; the same as `at` where it does not. */
  until: number;
  /** State of charge, parts of the capacity, and one standard deviation. */
  charge: number;
  deviation: number;
  /** Of that what it lacks by the current that still flowed: by how much more or less, all anchors of a battery share. */
  lacks?: number;
  /** By a current that was shown: hours for which what a zero error adds to it looks like charge that is missing. */
  zeroHours?: number;
  /** By the table of rest voltages: which part of what that is off by shows in it. */
  byTable?: number;
  /** By the part of lithium's table under its knee, which is off by the same each time. */
  atKnee?: boolean;
}

/** Cell in which an anchor lies. */
export const cellOfAnchor = (grid: Grid, anchor: Anchor): number =>
  clamp(cellOf(grid, anchor.at), 0, grid.count - 1);
