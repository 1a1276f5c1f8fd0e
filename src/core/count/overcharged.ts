/** Hours in which lead is held far above its range: what goes in then is gas, once what it lacked is back. */

import { cellStart, type Grid } from '../log/grid';
import { mergeSpans, type Span } from '../quantity/span';
import { blocksInSeries, expectedVolts, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';

/** V a block above the range; and °C that a battery without a thermometer may have, for which it is right to go higher (common practice, no source). */
const ABOVE = { volts: 0.25, celsius: 5 };
/** No battery is warmer, °C: what is under its range is not looked at. */
const HOTTEST = 70;

/**
 * @param volts of the bank on the grid @param celsius of the battery on the grid; null where nobody logged it
 * @returns none for lithium, whose BMS ends such a charge
 */
export function overchargedSpans(
  bank: KnownBank,
  grid: Grid,
  volts: Float32Array,
  celsius: Float32Array | null,
): Span[] {
  if (!isLead(bank.chemistry)) return [];
  const above = ABOVE.volts * blocksInSeries(bank);
  const least = expectedVolts(bank, 'absorption', HOTTEST).max + above;
  const found: Span[] = [];
  for (let cell = 0; cell < grid.count; cell++) {
    if (!(volts[cell]! > least)) continue;
    const heat = celsius?.[cell] ?? NaN;
    const { max } = expectedVolts(bank, 'absorption', heat === heat ? heat : ABOVE.celsius);
    if (volts[cell]! > max + above)
      found.push({ from: cellStart(grid, cell), to: cellStart(grid, cell + 1) });
  }
  return mergeSpans(found);
}
