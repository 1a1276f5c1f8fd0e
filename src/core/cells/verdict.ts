/** What becomes of a cell: where it stands at the top of charges and at the bottom, read together. */

import { isNumber } from '../quantity/numbers';
import type { CellFigures, Cells, Lag } from './types';

/** Where a cell stands near the top of charges. */
export type AtTop = 'ahead' | 'level' | 'behind' | 'unknown';

export const CELL_VERDICTS = [
  'level',
  'out-of-step',
  'holds-less',
  'runs-ahead',
  'falls-behind',
  'unknown',
] as const;
export type CellVerdict = (typeof CELL_VERDICTS)[number];

/** A cell this far behind the others, or ahead of them, is out of step: parts of the capacity, and V (common practice, no source). */
export const APART = { part: 0.012, volts: 0.03 };
/** Of what a cell is short by at the bottom: so much of it at the top, and it only started from less. */
const OUT_OF_STEP = 0.3;
/** A cell that falls behind by this part of the capacity a day leaks (common practice, no source). */
const LEAKS = 0.0008;

/**
 * Where no charge comes near the top: looked at so often at the least, and how much likelier the one must be than the other, as a logarithm.
 * The voltages say how far behind a cell is to a quarter of what lies between the least and the most; and no cell was quite level when it
 * was full.
 */
const BELOW = { fewest: 2, told: 1.6, ofRange: 0.25, wasLevel: 0.15 };

export function placeAtTop(
  { tops, chargedToHigh }: Pick<Cells, 'tops' | 'chargedToHigh'>,
  figures: CellFigures,
  capacityAh: number,
): AtTop {
  if (tops === 0) {
    const lean = catchesUp(figures, chargedToHigh, capacityAh);
    if (!(Math.abs(lean) >= BELOW.told)) return 'unknown';
    return lean > 0 ? 'level' : 'behind';
  }
  const { apart, behindAtTop, shortAtBottom } = figures;
  if (!isNumber(apart.top)) return 'unknown';
  const { ampHours, least, most, times } = behindAtTop;
  if (times > 0) {
    // In the flat part cells that differ by millivolts may be level.
    if (least === 0) return 'level';
    if (ampHours < -APART.part * capacityAh) return 'ahead';
    // A cell that holds less lags a little as well; what it lacks at the bottom is far more.
    const short = shortAtBottom.times > 0 ? shortAtBottom.ampHours : 0;
    return (ampHours + most) / 2 > Math.max(APART.part * capacityAh, OUT_OF_STEP * short)
      ? 'behind'
      : 'level';
  }
  if (apart.top < -APART.volts) return 'behind';
  return apart.top > APART.volts ? 'ahead' : 'level';
}

/**
 * While a battery is charged from where one cell is empty, a cell that holds as much as the others stays as many ampere-hours behind. One
 * that holds less, and was level with them when they were full, catches up.
 * @returns how much likelier it is that it catches up, as a logarithm; under 0 where it stays behind, NaN where that cannot be seen
 */
function catchesUp(
  { behindAtHigh: high, shortAtBottom: low }: CellFigures,
  chargedAh: number,
  capacityAh: number,
): number {
  if (high.times < BELOW.fewest || !(low.ampHours > APART.part * capacityAh)) return NaN;
  const wouldBy = (chargedAh * low.ampHours) / (capacityAh - low.ampHours);
  if (!(wouldBy > 0)) return NaN;
  const known = (lag: Lag) => (BELOW.ofRange * Math.abs(lag.most - lag.least)) / wouldBy;
  const part = (low.ampHours - high.ampHours) / wouldBy;
  const error = Math.hypot(known(high), known(low), BELOW.wasLevel);
  return (2 * part - 1) / (2 * error ** 2);
}

/** @param capacityAh of the battery */
export function cellVerdict(cells: Cells, one: CellFigures, capacityAh: number): CellVerdict {
  const atTop = placeAtTop(cells, one, capacityAh);
  const { ampHours, times } = one.shortAtBottom;
  const isShort =
    times > 0 && isNumber(ampHours)
      ? ampHours > APART.part * capacityAh && one.apart.bottom < -APART.volts
      : one.apart.bottom < -2 * APART.volts;
  if (one.fallsBehindADay > LEAKS * capacityAh && atTop === 'behind') return 'falls-behind';
  if (isShort && atTop === 'unknown') return 'unknown';
  if (isShort) return atTop === 'behind' ? 'out-of-step' : 'holds-less';
  if (atTop === 'unknown' && cells.bottoms === 0) return 'unknown';
  if (atTop === 'ahead') return 'runs-ahead';
  return atTop === 'behind' ? 'out-of-step' : 'level';
}
