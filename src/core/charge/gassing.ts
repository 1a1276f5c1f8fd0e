/** Lead that a charger without a limit of voltage charges on: full once its voltage no longer rises. */

import { cellAt, cellStart } from '../log/grid';
import { median, quantile } from '../quantity/numbers';
import { HOUR, MINUTE, type Span } from '../quantity/span';
import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Stage } from './types';
import type { ChargeView } from './view';

/**
 * At V a cell and above what flows is mostly gas, and all of it once the voltage stands still, within V a cell over so long (common
 * practice, no source: a charge by constant current ends when neither voltage nor acid rises over two hours).
 */
const STANDS = { volts: 2.5, within: 0.01, over: 2 * HOUR };

/** By the middle of so long each, in which loads may come and go. */
const PART = 20 * MINUTE;

/** The current stays, to this part of the most: a voltage that is held while it falls is absorption. */
const STAYS = 0.75;

/** When a bulk at a current that stays has filled it, to the end of the stage. Empty for lithium, and without the battery's current. */
export function gassedFull(
  stages: readonly Stage[],
  { chemistry, cellsInSeries }: Pick<KnownBank, 'chemistry' | 'cellsInSeries'>,
  { batteryAmps, batteryVolts, volts: sourceVolts, grid }: ChargeView,
): Span[] {
  if (!isLead(chemistry) || !batteryAmps || grid.step > PART / 2) return [];
  const volts = batteryVolts ?? sourceVolts;
  const part = Math.round(PART / grid.step);
  return stages.flatMap(({ stage, blocked, from, to }): Span[] => {
    if (stage !== 'bulk' || blocked) return [];
    const [first, last] = [cellAt(grid, from), cellAt(grid, to)];
    const parts: { volts: number; amps: number }[] = [];
    for (let cell = first; cell + part <= last; cell += part)
      parts.push({
        volts: median(volts.subarray(cell, cell + part)),
        amps: median(batteryAmps.subarray(cell, cell + part)),
      });
    const most = quantile(
      parts.map((one) => one.amps),
      0.9,
    );
    const count = Math.round(STANDS.over / PART);
    const at = parts.findIndex((_, k) => {
      const some = parts.slice(k, k + count);
      const high = some.map((one) => one.volts);
      return (
        some.length === count &&
        Math.min(...high) >= STANDS.volts * cellsInSeries &&
        Math.max(...high) - Math.min(...high) <= STANDS.within * cellsInSeries &&
        some.every((one) => one.amps >= STAYS * most)
      );
    });
    return at < 0 ? [] : [{ from: cellStart(grid, first + at * part), to }];
  });
}
