/**
 * Devices that move as one, such as two controllers on one roof: how much of each the monitor shows cannot be told apart, how much of all
 * of them can. A monitor that misses the second may as well show half of both; where the description says that it counts the first, and not
 * that it counts the second, it misses the second.
 */

import { robustLeastSquares } from './leastSquares';
import { AS_ONE } from './sharesOpen';

/** What is seen of all together fits so many of its errors, and so much besides. */
const FITS = { errors: 3, besides: 0.08 };

/** How well a share is known that only what all of them show together tells. */
const BY_THE_WHOLE = 0.09;

export interface AsOne {
  /** Steps of the device, A. */
  column: Float64Array;
  /** Whether the monitor is said to count it; null where that is not known. */
  counted: boolean | null;
}

/**
 * Shares of the devices that move as one, by the description where it fits what they show together; nothing for all others.
 * @param alone for each, what it has of its own, {@link partsAlone}. @param shares of a fit of all at once
 * @param values steps of the monitor's current. @param widen for steps that overlap
 */
export function sharesAsOne(
  devices: readonly AsOne[],
  {
    alone,
    shares,
    values,
    widen,
  }: { alone: readonly number[]; shares: Float64Array; values: Float64Array; widen: number },
): ({ share: number; error: number } | undefined)[] {
  const isAsOne = alone.map((part) => part < AS_ONE);
  const some = devices.filter((_, k) => isAsOne[k]);
  if (some.length < 2) return [];
  const left = values.slice();
  devices.forEach(({ column }, k) => {
    if (!isAsOne[k]) column.forEach((step, row) => (left[row]! -= shares[k]! * step));
  });
  const seen = seenOfThose(some, left, widen);
  return devices.map((one, k) =>
    seen && isAsOne[k] ? { share: seen[some.indexOf(one)] ? 1 : 0, error: BY_THE_WHOLE } : undefined,
  );
}

/**
 * Which of them the monitor shows, as the description has it. Null where it counts all of them or none by that, or where all together show
 * something else.
 * @param values steps of the monitor's current without what other devices make of it @param widen for steps that overlap
 */
export function seenOfThose(some: readonly AsOne[], values: Float64Array, widen: number): boolean[] | null {
  const seen = some.map((one) => one.counted === true);
  if (seen.every((one) => one) || !seen.some((one) => one)) return null;
  const sumOf = (columns: readonly Float64Array[]) =>
    values.map((_, row) => columns.reduce((sum, column) => sum + column[row]!, 0));
  const together = sumOf(some.map((one) => one.column));
  const counted = sumOf(some.filter((_, k) => seen[k]).map((one) => one.column));
  const fit = robustLeastSquares({ columns: [together], values });
  if (!fit) return null;
  const dot = (other: Float64Array) => together.reduce((sum, one, row) => sum + one * other[row]!, 0);
  const apart = Math.abs(fit.values[0]! - dot(counted) / dot(together));
  return apart <= FITS.errors * fit.errors[0]! * widen + FITS.besides ? seen : null;
}
