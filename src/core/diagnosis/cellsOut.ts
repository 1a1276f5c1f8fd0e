/** The section on cells of a diagnosis. */

import type { Cells, FirstAtEnd, Lag } from '../cells/types';
import { cellVerdict } from '../cells/verdict';
import { isNumber } from '../quantity/numbers';
import { HOUR, isoTime } from '../quantity/span';
import type { CellsOut } from './result';
import { rounded, roundedOrNull } from './rounded';

export function cellsOut(cells: Cells | null): CellsOut | null {
  if (!cells) return null;
  const { kind, battery, capacityAh, tops, bottoms, spread, low, high, figures, heat } = cells;
  return {
    kind,
    battery,
    tops,
    bottoms,
    spread: { flat: millivolts(spread.flat), top: millivolts(spread.top), bottom: millivolts(spread.bottom) },
    firstLow: firstOut(low),
    firstHigh: firstOut(high),
    balancingHoursADay: roundedOrNull(cells.balancingADay, 2),
    cells: figures.map((one) => ({
      cell: one.cell,
      flat: millivolts(one.apart.flat),
      top: millivolts(one.apart.top),
      bottom: millivolts(one.apart.bottom),
      firstHigh: one.firstHigh,
      firstLow: one.firstLow,
      behindAtTop: lagOut(one.behindAtTop),
      shortAtBottom: lagOut(one.shortAtBottom),
      fallsBehindAhADay: roundedOrNull(one.fallsBehindADay, 3),
      milliohms: roundedOrNull(1000 * one.ohms, 2),
      milliohmsBand: roundedOrNull(2000 * one.ohmsError, 2),
      verdict: kind === 'cells' ? cellVerdict(cells, one, capacityAh) : 'unknown',
    })),
    heat: {
      from: isoTime(heat.from),
      stepHours: rounded(heat.stepMs / HOUR, 4),
      apart: heat.apart.map((row) => Array.from(row, millivolts)),
      spread: Array.from(heat.spread, millivolts),
    },
  };
}

const millivolts = (volts: number): number | null => roundedOrNull(1000 * volts, 0);

const firstOut = (first: FirstAtEnd | null) =>
  first && { cell: first.cell, times: first.times, of: first.of, millivolts: rounded(1000 * first.apart, 0) };

const lagOut = ({ ampHours, least, most, times }: Lag) =>
  isNumber(ampHours)
    ? { ampHours: rounded(ampHours, 1), least: rounded(least, 1), most: rounded(most, 1), times }
    : null;
