/**
 * How much of a device's current the monitor shows, by means over half an hour: where two logs are written at other moments of fast clouds,
 * or rows lie sooner or later than they say, no step of a few minutes is the same in both, and the means are.
 */

import { mean } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import type { Grid } from '../log/grid';

/** So long, and so many rows of the slower log, at the least; of a block so much is known. */
const BLOCK = { ms: 30 * MINUTE, rows: 6, known: 2 / 3 };
/** A mean trembles less: its steps may be this part of those of single rows. */
const MEANS = 0.5;
/** So many steps from block to block at least. */
const FEWEST = 20;
/**
 * Noise in the device's own current makes the fit of the monitor's on it too small, and noise in the monitor's makes the other fit too
 * large: the share lies between the two. Where these are further apart than this part, it is not told.
 */
const BETWEEN = 0.12;
/** What it is off by at the least; and what loads that go by the sun take off a share, which they never raise: this part of what is lacking. */
const ERROR = { least: 0.04, lacking: 0.5 };

/** @param own of the device and @param amps of the monitor, A on the grid @param rowMs between rows of the slower log @param least step between rows, A */
export function shareByBlocks(
  own: Float32Array,
  amps: Float32Array,
  grid: Grid,
  rowMs: number,
  least: number,
): { share: number; error: number } | null {
  const size = Math.ceil(Math.max(BLOCK.ms, BLOCK.rows * rowMs) / grid.step);
  const steps: { own: number; shown: number }[] = [];
  let last: { own: number; shown: number } | null = null;
  for (let first = 0; first + size <= grid.count; first += size) {
    const cells: number[] = [];
    for (let cell = first; cell < first + size; cell++)
      if (own[cell]! === own[cell]! && amps[cell]! === amps[cell]!) cells.push(cell);
    const now =
      cells.length < BLOCK.known * size
        ? null
        : { own: mean(cells.map((cell) => own[cell]!)), shown: mean(cells.map((cell) => amps[cell]!)) };
    if (now && last && Math.abs(now.own - last.own) >= MEANS * least)
      steps.push({ own: now.own - last.own, shown: now.shown - last.shown });
    last = now;
  }
  if (steps.length < FEWEST) return null;
  const sumOf = (of: (step: { own: number; shown: number }) => number) =>
    steps.reduce((sum, step) => sum + of(step), 0);
  const both = sumOf(({ own, shown }) => own * shown);
  const low = both / sumOf(({ own }) => own * own);
  const high = sumOf(({ shown }) => shown * shown) / both;
  const share = (low + high) / 2;
  const apart = Math.abs(high - low);
  if (!(apart <= BETWEEN * Math.abs(share))) return null;
  const byLoads = ERROR.lacking * Math.max(0, 1 - share);
  return { share, error: Math.hypot(apart / 2, ERROR.least * Math.abs(share), byLoads) };
}
