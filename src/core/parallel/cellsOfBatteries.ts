/** Cells where several batteries in parallel were logged: those of the battery in which they stand furthest apart. */

import { cellsOf } from '../cells/cells';
import type { Cells } from '../cells/types';
import type { Timeline } from '../log/timeline';
import { isNumber } from '../quantity/numbers';
import type { KnownSystem } from '../system/known';
import type { BatteryLog } from './setApart';

/** Null where none of them logged cells. */
export function cellsOfBatteries(
  system: KnownSystem,
  timeline: Timeline,
  batteries: readonly BatteryLog[],
): Cells | null {
  let worst: Cells | null = null;
  for (const { id, part, log } of batteries) {
    const bank = { ...system.bank, capacityAh: part * system.bank.capacityAh, stringsInParallel: 1 };
    const found = cellsOf({ ...system, bank }, { ...timeline, series: [log] });
    if (found && (!worst || urgency(found) > urgency(worst))) worst = { ...found, battery: id };
  }
  return worst;
}

/** How far the furthest cell stands apart: in parts of the capacity where that is known, and in V. */
function urgency({ figures, capacityAh, spread }: Cells): number {
  const lags = figures.flatMap(({ behindAtTop, shortAtBottom }) => [
    Math.abs(behindAtTop.ampHours),
    Math.abs(shortAtBottom.ampHours),
  ]);
  const volts = [spread.flat, spread.top, spread.bottom].filter(isNumber);
  return Math.max(0, ...lags.filter(isNumber)) / capacityAh + Math.max(0, ...volts) / 10;
}
