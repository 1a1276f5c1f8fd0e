/** The middle of the cells at each moment: the mean of all but the highest and the lowest, so that one bad cell does not move it. */

import type { CellLog } from './cellLog';

export interface Middle {
  /** V; NaN where a cell is missing. */
  middle: Float32Array;
  /** Mean of all, highest and lowest, V. */
  mean: Float32Array;
  most: Float32Array;
  least: Float32Array;
  mostAt: Uint16Array;
  leastAt: Uint16Array;
}

/** A cell that shows less is a loose wire, V. */
const LOOSE = 1;

export function middleOf({ time, volts }: Pick<CellLog, 'time' | 'volts'>): Middle {
  const length = time.length;
  const count = volts.length;
  const found: Middle = {
    middle: new Float32Array(length),
    mean: new Float32Array(length),
    most: new Float32Array(length).fill(-Infinity),
    least: new Float32Array(length).fill(Infinity),
    mostAt: new Uint16Array(length),
    leastAt: new Uint16Array(length),
  };
  const total = new Float64Array(length);
  // Column by column: a row of sixteen arrays is slow to walk.
  for (let k = 0; k < count; k++) {
    const column = volts[k]!;
    for (let i = 0; i < length; i++) {
      const one = column[i]!;
      total[i]! += one > LOOSE ? one : NaN;
      if (one > found.most[i]!) {
        found.most[i] = one;
        found.mostAt[i] = k;
      }
      if (one < found.least[i]!) {
        found.least[i] = one;
        found.leastAt[i] = k;
      }
    }
  }
  for (let i = 0; i < length; i++) {
    found.mean[i] = total[i]! / count;
    found.middle[i] =
      count > 2 ? (total[i]! - found.most[i]! - found.least[i]!) / (count - 2) : total[i]! / count;
  }
  return found;
}
