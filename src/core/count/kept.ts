/** Full batteries: for how long one is kept so, and where one is nearly there. */

import { HOUR } from '../quantity/span';
import { cellOf, cellStart, type Grid } from '../log/grid';
import { type Anchor, cellOfAnchor } from './anchors';
import type { Through } from './through';

/** What is near the top, parts of the capacity. */
const TOP = 0.1;

/** Cells in which the last tenth goes in, before an anchor near the top. */
export function nearTop(
  anchors: readonly Anchor[],
  { grid, in: into }: Through,
  capacityAh: number,
): Uint8Array {
  const near = new Uint8Array(grid.count);
  for (const anchor of anchors) {
    if (anchor.kind !== 'full' && anchor.kind !== 'absorption') continue;
    let ampHours = 0;
    for (let k = cellOfAnchor(grid, anchor); k >= 0 && ampHours < TOP * capacityAh; k--) {
      if (into[k] === 0 && ampHours > 0) break;
      ampHours += into[k]!;
      near[k] = 1;
    }
  }
  return near;
}

/** A battery that gives this part of its capacity, and does not get it back, is not kept full, whatever its charger says. */
const DRAWN = 0.02;

/** An anchor of a full battery for as long as the battery stays so; none where it was drawn upon just before. */
export function whileKept(anchor: Anchor, { grid, in: into, out }: Through, capacityAh: number): Anchor[] {
  if (anchor.kind !== 'full') return [anchor];
  const first = cellOfAnchor(grid, anchor);
  const last = Math.min(grid.count - 1, cellOf(grid, anchor.until));
  let drawn = 0;
  for (let k = Math.max(0, cellOf(grid, anchor.at - HOUR)); k <= last; k++) {
    drawn = Math.max(0, drawn + out[k]! - into[k]!);
    if (drawn <= DRAWN * capacityAh) continue;
    return k <= first ? [] : [{ ...anchor, until: Math.max(anchor.at, cellStart(grid, k - 1)) }];
  }
  return [anchor];
}

/** Cells in which a charger only keeps a full battery full. */
export function keptCells(anchors: readonly Anchor[], grid: Grid): Uint8Array {
  const kept = new Uint8Array(grid.count);
  for (const anchor of anchors) {
    if (anchor.kind !== 'full' || anchor.until <= anchor.at) continue;
    const last = Math.min(grid.count - 1, cellOf(grid, anchor.until));
    for (let k = Math.max(0, cellOf(grid, anchor.at) + 1); k <= last; k++) kept[k] = 1;
  }
  return kept;
}

/** What a lead battery lacks as its absorption begins may be more than the anchor says: by so many deviations, and this part of it all. */
const LACKS = { deviations: 2, more: 1.2 };

export const GASSING = { some: 1, all: 2 } as const;

/**
 * Cells of a charge of lead far above its range, since absorption began: some of what goes in is gas; all of it, once more has gone in than
 * the battery can have lacked. Within its range it takes little then, and much tells of loads that nobody counts.
 * @param capacityAh of the bank @param overcharged cells in which it is above its range @returns 0, or what of `GASSING`
 */
export function gassedCells(
  anchors: readonly Anchor[],
  { grid, in: into, out }: Through,
  capacityAh: number,
  overcharged: Uint8Array,
): Uint8Array {
  const gassed = new Uint8Array(grid.count);
  for (const anchor of anchors) {
    if (anchor.kind !== 'absorption') continue;
    const lacks = LACKS.more * (1 - anchor.charge + LACKS.deviations * anchor.deviation) * capacityAh;
    let gone = 0;
    let drawn = 0;
    for (let k = cellOfAnchor(grid, anchor) + 1; k < grid.count; k++) {
      drawn = Math.max(0, drawn + out[k]! - into[k]!);
      if (drawn > DRAWN * capacityAh) break;
      gone += into[k]! - out[k]!;
      if (!overcharged[k]) continue;
      gassed[k] = Math.max(gassed[k]!, gone > lacks ? GASSING.all : GASSING.some);
    }
  }
  return gassed;
}
