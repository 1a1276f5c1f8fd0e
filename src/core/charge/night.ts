/** When the sun is down, from the log alone: times of the day at which a solar source never gives anything. */

import { DAY, MINUTE } from '../quantity/span';
import { cellStart } from '../log/grid';
import type { ChargeView } from './view';

const BIN = 10 * MINUTE;
/** Fewer days than these do not show which hours are night. */
const LEAST_DAYS = 2;

/** 1 for every cell at a time of the day at which the source gives nothing on any day; null where the log is too short to tell. */
export function nightOf(view: ChargeView, onAmps: number): Uint8Array | null {
  const { grid, amps } = view;
  if (grid.count * grid.step < LEAST_DAYS * DAY) return null;
  const most = new Float32Array(DAY / BIN);
  const bins = new Uint16Array(grid.count);
  for (let cell = 0; cell < grid.count; cell++) {
    const bin = Math.floor((cellStart(grid, cell) % DAY) / BIN);
    bins[cell] = bin;
    if (amps[cell]! > most[bin]!) most[bin] = amps[cell]!;
  }
  return Uint8Array.from(bins, (bin) => (most[bin]! <= onAmps ? 1 : 0));
}
