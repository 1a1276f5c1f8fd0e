/**
 * Regulated or supply-limited: the question behind every judgement of a charge. In regulation the voltage stands still while
 * the current moves by itself; with a limited supply the voltage follows the current, or climbs while the current stands still.
 */

import type { ChargeView } from './view';
import { clamp } from '../quantity/numbers';
import { MOST_WINDOW, runningSums, shapeOf, type WindowShape } from './windows';

/** Half an hour and longer look flat for many reasons; these two windows see a short plateau and a slow climb. Minutes. */
const SHORT_MINUTES = 12;
const LONG_MINUTES = 45;

/** Scatter about its line, in parts of the drift, under which a window is a climb; the edge of a plateau has 0.17 at least. */
const CLIMBING = 0.13;

export interface Regulation {
  /**
   * Per cell: natural log of the likelihood that the voltage is being held over that it follows the supply, −6 to 6. About 0
   * where the log cannot tell (voltage and current both stand still), NaN in gaps.
   */
  held: Float32Array;
}

/**
 * Judges every cell of a view.
 * @param capacityAh sets what resistance a battery of that size can at least have.
 */
export function judgeRegulation(view: ChargeView, capacityAh: number): Regulation {
  const { volts, amps, grid, blocks } = view;
  const held = new Float32Array(grid.count).fill(NaN);
  const sums = runningSums(volts, amps, 12.5 * blocks);
  const cellsOf = (minutes: number) =>
    Math.min(MOST_WINDOW, Math.max(5, Math.round((minutes * 60_000) / grid.step)));
  const short = cellsOf(SHORT_MINUTES);
  const long = cellsOf(LONG_MINUTES);
  // Voltage may move this much and still stand still: meter noise, or 30 mV a 12 V block of regulator ripple and cable drop.
  const still = Math.max(2.5 * view.voltNoise, 1.1 * view.voltQuantum, 0.03 * blocks);
  // A 12 V, 100 Ah battery answers slow changes of current with 12 mΩ at the very least.
  const leastOhms = (1.2 / capacityAh) * blocks;

  for (let cell = 0; cell < grid.count; cell++) {
    if (volts[cell]! !== volts[cell]! || amps[cell]! !== amps[cell]!) continue;
    const near = bestWindow(sums, cell, short, grid.count);
    if (!near) {
      held[cell] = 0;
      continue;
    }
    const moves = Math.max(Math.abs(near.drift), 2 * near.scatter);
    // How far the voltage would have moved had it followed this current.
    const would = 2 * leastOhms * near.ampSpread;
    let score: number;
    if (moves <= still) score = 0.4 + Math.min(4, (2 * would) / still);
    else {
      score = -Math.min(6, 1.5 * (moves / still - 1));
      if (near.slope > leastOhms && near.ampSpread > 3 * view.ampNoise) score -= 1;
      if (near.slope < 0 && near.ampSpread > 3 * view.ampNoise) score += 1;
    }
    if (score > 0) {
      // Flat for minutes may still be a slow climb: then the longer window drifts whichever way it is laid.
      const far = bestWindow(sums, cell, long, grid.count);
      if (far) {
        const drifts = Math.max(Math.abs(far.drift), 2 * far.scatter);
        // A climb so slow that the short window could not see it; a steeper one it would have seen.
        const hidden = Math.abs(far.drift) * (short / long) < 2 * still;
        if (drifts <= 1.5 * still) score += 1.5;
        else if (would < still && hidden && far.scatter < CLIMBING * Math.abs(far.drift))
          score -= Math.min(5, 2 * (drifts / still - 1.5));
      }
    }
    held[cell] = clamp(score, -6, 6);
  }
  return { held };
}

/** The window before, around or after a cell in which the voltage stands stillest: an edge must not blur into a plateau. */
function bestWindow(sums: Float64Array, cell: number, size: number, count: number): WindowShape | null {
  let best: WindowShape | null = null;
  let least = Infinity;
  for (const from of [cell - size + 1, cell - (size >> 1), cell]) {
    if (from < 0 || from + size > count) continue;
    const shape = shapeOf(sums, from, from + size);
    if (!shape) continue;
    const moves = Math.max(Math.abs(shape.drift), 2 * shape.scatter);
    if (moves < least) {
      least = moves;
      best = shape;
    }
  }
  return best;
}
