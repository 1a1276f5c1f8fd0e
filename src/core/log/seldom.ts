/** Logs whose rows lie far apart beside logs with more of them. */

import { isNumber, mean } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import { medianStep } from './grid';

/** Rows so far apart miss what comes and goes between them, ms. */
export const SELDOM = 5 * MINUTE;

/** Whether a log has two rows and more for each of another, and those of the other are far apart. */
export const isFiner = (time: Float64Array, than: Float64Array): boolean =>
  medianStep(than) >= SELDOM && 2 * medianStep(time) <= medianStep(than);

/** How far two currents move apart from one row to the next, A, mean. Not their levels: these lie apart by whatever one of them does not see. */
export const movesApart = (one: Float32Array, other: Float32Array): number =>
  mean(
    Array.from(one, (amps, i) =>
      i > 0 ? Math.abs(amps - other[i]! - (one[i - 1]! - other[i - 1]!)) : NaN,
    ).filter(isNumber),
  );
