/**
 * A held voltage that clouds break every few minutes: no window stands still, yet the voltage comes back to the same top again and again,
 * and never over it, while the current that flows there falls from one time to the next. A limited supply would lift it less each time.
 */

import { mean, quantile } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import type { ChargeView } from './view';

const WINDOW = 45 * MINUTE;
/** Windows follow each other by this part of their length. */
const HOP = 0.25;
/** The top is where the upper tenth begins; so many cells stand there at the least, and so few above it, in parts of the window. */
const TOP = 0.9;
const AT_TOP = { least: 0.25, cells: 6, above: 0.05 };
/** Times that it comes back there. */
const RETURNS = 3;
/** The clouds tell a resistance up to so many times the least: what a coarse log shows of them may be more. */
const MOST_OHMS = 3;

/**
 * @param still V by which a held voltage may move
 * @param leastOhms resistance that a battery of this size has at the least
 * @returns per cell, how far the voltage would have moved with the current that flowed at the top, in times of `still`; 0 where it is at
 *   no such top
 */
export function clippedOf(
  { volts, amps, grid }: Pick<ChargeView, 'volts' | 'amps' | 'grid'>,
  { onAmps, still, leastOhms }: { onAmps: number; still: number; leastOhms: number },
): Float32Array {
  const out = new Float32Array(grid.count);
  const size = Math.round(WINDOW / grid.step);
  // Cells as long as a cloud show no returns.
  if (size < 4 * AT_TOP.cells) return out;
  const hop = Math.max(1, Math.round(HOP * size));
  for (let from = 0; from + size <= grid.count; from += hop) {
    const given: number[] = [];
    for (let cell = from; cell < from + size; cell++)
      if (amps[cell]! > onAmps && volts[cell]! === volts[cell]!) given.push(cell);
    if (given.length < 0.7 * size) continue;
    const top = quantile(
      given.map((cell) => volts[cell]!),
      TOP,
    );
    const tops = given.filter((cell) => Math.abs(volts[cell]! - top) <= still / 2);
    const above = given.filter((cell) => volts[cell]! > top + still / 2).length;
    if (tops.length < Math.max(AT_TOP.cells, AT_TOP.least * size) || above > AT_TOP.above * size) continue;
    const returns = tops.filter((cell, k) => k > 0 && cell - tops[k - 1]! > 1).length;
    if (returns < RETURNS) continue;
    const flows = tops.map((cell) => amps[cell]!);
    const under = given.filter((cell) => volts[cell]! < top - still / 2);
    const seen =
      (top - mean(under.map((cell) => volts[cell]!))) /
      (mean(flows) - mean(under.map((cell) => amps[cell]!)));
    const ohms = seen > leastOhms ? Math.min(seen, MOST_OHMS * leastOhms) : leastOhms;
    const would = (ohms * (quantile(flows, 0.9) - quantile(flows, 0.1))) / still;
    if (would < 1) continue;
    for (const cell of tops) out[cell] = Math.max(out[cell]!, would);
  }
  return out;
}
