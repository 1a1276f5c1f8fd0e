/** When the sun is down, from the log alone: times of the day at which a solar source never gives anything. */

import { DAY, HOUR, MINUTE } from '../quantity/span';
import { REPORTED_STAGES } from '../log/channels';
import { binsOfDay } from '../log/grid';
import type { ChargeView } from './view';

const BIN = 10 * MINUTE;
/** Fewer days than these do not show which hours are night. */
const LEAST_DAYS = 2;

/** The shortest day of the latitudes where most people live, hours. A source that is full sooner stands idle, but it is no night. */
const SHORTEST_DAY = 8 * HOUR;

/**
 * 1 for every cell at a time of the day at which the source gives nothing on any day, nor says that it is awake; null where the log is
 * too short to tell.
 */
export function nightOf(view: ChargeView, onAmps: number): Uint8Array | null {
  const { grid, amps, reported } = view;
  if (grid.count * grid.step < LEAST_DAYS * DAY) return null;
  const bins = DAY / BIN;
  const awake = new Uint8Array(bins);
  const binOf = binsOfDay(grid, BIN);
  const off = REPORTED_STAGES.indexOf('off');
  for (let cell = 0; cell < grid.count; cell++) {
    if (amps[cell]! > onAmps || (reported && reported[cell]! > off)) awake[binOf[cell]!] = 1;
  }
  lengthenDay(awake);
  return Uint8Array.from(binOf, (bin) => 1 - awake[bin]!);
}

/** From the first light on, which ends the longest idle time of the day, it is day for so long at the least. */
function lengthenDay(awake: Uint8Array): void {
  const bins = awake.length;
  let dawn = -1;
  let longest = 0;
  let idle = 0;
  for (let k = 0; k < 2 * bins; k++) {
    if (awake[k % bins] === 0) idle++;
    else {
      if (idle > longest) {
        longest = idle;
        dawn = k;
      }
      idle = 0;
    }
  }
  if (dawn < 0) return;
  for (let k = dawn; k < dawn + SHORTEST_DAY / BIN; k++) awake[k % bins] = 1;
}
