/**
 * A temperature in a charger's log that does not say whose it is. The charger's own rises with what it gives, by fifteen degrees and more; the
 * battery's hardly moves, though it may follow the day by a few. Where the head of the log shows neither, it is asked.
 */

import { isNumber, mean, quantile } from '../../quantity/numbers';
import { numberOf } from '../cells';
import type { Dialect } from '../sniff';
import type { ColumnReading } from './reading';

/** Parts of the greatest current at which a charger works hard, and rests; rows of each that are needed. */
const HARD = 0.6;
const RESTS = 0.1;
const ROWS = 30;
/** °C by which the battery's moves at the most between the two and over the head; by which a charger's own rises at the least. */
const SLOW = { apart: 3, swing: 9 };
const WARMS = 15;

/** Settles the columns that are asked for being the battery's temperature or the device's own. */
export function settleWarmth(
  columns: readonly ColumnReading[],
  rows: readonly (readonly string[])[],
  { decimalChar }: Dialect,
): void {
  const amps = columns.find((one) => one.role === 'source_current');
  const asked = columns.filter((one) => one.role === 'battery_temperature' && one.sure === 'ask');
  if (!amps || asked.length === 0) return;
  const valuesOf = ({ index }: ColumnReading) => rows.map((row) => numberOf(row[index] ?? '', decimalChar));
  const given = valuesOf(amps);
  const most = quantile(given.filter(isNumber), 0.98);
  for (const column of asked) {
    const heat = valuesOf(column).map((one) => (one - column.offset) * column.scale);
    const at = (test: (amps: number) => boolean) =>
      heat.filter((one, row) => one === one && test(given[row]!));
    const hard = at((one) => one >= HARD * most);
    const rests = at((one) => one <= RESTS * most);
    if (!(most > 0) || hard.length < ROWS || rests.length < ROWS) continue;
    const apart = mean(hard) - mean(rests);
    const swing = quantile(heat.filter(isNumber), 0.98) - quantile(heat.filter(isNumber), 0.02);
    if (Math.abs(apart) <= SLOW.apart && swing <= SLOW.swing)
      Object.assign(column, { sure: 'likely', question: undefined });
    else if (apart >= WARMS) Object.assign(column, { role: null, sure: 'likely', question: undefined });
  }
}
