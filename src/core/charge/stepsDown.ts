/** Whether of two close voltages the lower is a stage of its own: charges go down to it once; a load, or a cable, makes them go to and fro. */

import { HOUR } from '../quantity/span';
import { at25, type ChargeView } from './view';

/** They go down so often at least, and back in this part of the times at most; what lies further apart are two charges. */
const STEPS = { least: 3, back: 0.2, within: 3 * HOUR };

/**
 * @param cells of the view in which a voltage is held, rising. @param near V within which a cell stands at one of them
 * @param upper and lower in V at 25 °C
 */
export function stepsDown(
  view: ChargeView,
  cells: readonly number[],
  voltsPerC: number,
  { upper, lower, near }: { upper: number; lower: number; near: number },
): boolean {
  const within = STEPS.within / view.grid.step;
  let down = 0;
  let back = 0;
  let last = -Infinity;
  let wasUp: boolean | null = null;
  for (const cell of cells) {
    const volts = at25(view, cell, voltsPerC);
    const isUp = Math.abs(volts - upper) <= near;
    if (!isUp && Math.abs(volts - lower) > near) continue;
    if (wasUp !== null && wasUp !== isUp && cell - last <= within) {
      if (wasUp) down++;
      else back++;
    }
    last = cell;
    wasUp = isUp;
  }
  return down >= STEPS.least && back <= STEPS.back * down;
}
