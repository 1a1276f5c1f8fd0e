/** Deviations of the cells over the log in even steps. */

import { HOUR, MINUTE } from '../quantity/span';
import type { CellLog } from './cellLog';
import type { Middle } from './middle';
import type { HeatMap } from './types';

/** Steps that people read, and so many of them at most. */
const STEPS = [10 * MINUTE, 30 * MINUTE, HOUR, 2 * HOUR, 3 * HOUR, 6 * HOUR, 12 * HOUR, 24 * HOUR];
const MOST = 180;

export function heatMap({ time, volts }: CellLog, { middle, most, least }: Middle): HeatMap {
  const from = time[0]!;
  const length = time[time.length - 1]! - from;
  const stepMs =
    STEPS.find((one) => length / one <= MOST) ?? 24 * HOUR * Math.ceil(length / (MOST * 24 * HOUR));
  const count = Math.max(1, Math.ceil((length + 1) / stepMs));
  const known = new Uint32Array(count);
  const spread = new Float64Array(count);
  const bucket = new Uint16Array(time.length);
  for (let i = 0; i < time.length; i++) {
    const at = Math.floor((time[i]! - from) / stepMs);
    bucket[i] = at;
    if (middle[i]! !== middle[i]!) continue;
    known[at]!++;
    spread[at]! += most[i]! - least[i]!;
  }
  const apart = volts.map((column) => {
    const total = new Float64Array(count);
    for (let i = 0; i < time.length; i++)
      if (middle[i]! === middle[i]!) total[bucket[i]!]! += column[i]! - middle[i]!;
    return Float32Array.from(total, (one, at) => one / known[at]!);
  });
  return { from, stepMs, apart, spread: Float32Array.from(spread, (one, at) => one / known[at]!) };
}
