/**
 * How far a cell is behind the others, in ampere-hours. No curve of a cell is needed: what counts is how much charge went by between
 * the moment when the others stood where it stands now, and now. Near full and near empty that is known well; in the flat part of
 * lithium a few millivolts stand for a third of the charge, so there is a least and a most.
 */

import { clamp } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import type { CellLog } from './cellLog';
import type { Middle } from './middle';

/** Looks back so long. */
const BACK = 48 * HOUR;
/** The moment itself is looked for so far back: while the current was still that of the run. */
const RUN = 6 * HOUR;
/** Currents alike enough that what they pull the voltage by is the same: parts of that of the run. */
const ALIKE = { least: 0.4, most: 2.5 };
/** What meters of a BMS, and cells of one make, part by, V. */
const APART = 0.004;

export interface OneLag {
  /** Ah; + behind the others at the top, or empty before them at the bottom. */
  ampHours: number;
  least: number;
  most: number;
}

/**
 * Null without a current. @param index sample of the end @param cell its column
 * @param end at the top the one that leads is ahead; at the bottom it is the first to be empty
 */
export function lagAt(
  log: CellLog,
  seen: Middle,
  end: 'top' | 'bottom',
  index: number,
  cell: number,
): OneLag | null {
  const { amps, ampHours, ohms, volts } = log;
  if (!amps || !ampHours) return null;
  // Seen from the other end of the battery the same is true upside down.
  const up = end === 'top' ? 1 : -1;
  const run = lastOfRun(log, up, index);
  if (run === null) return null;
  const at = (column: Float32Array, i: number) => up * (column[i]! - amps[i]! * ohms);
  const own = volts[cell]!;
  const others = seen.middle;
  const leads = at(own, run.index) > at(others, run.index);
  const leader = leads ? own : others;
  const follower = Math.min(at(own, run.index), at(others, run.index));
  // Ah since the leader stood at a level; as much as there is where it never stood so low.
  const since = (level: number): number => {
    let later = NaN;
    let laterAh = ampHours[run.index]!;
    let furthest = 0;
    for (let i = run.index; i >= 0 && log.time[run.index]! - log.time[i]! < BACK; i--) {
      const flows = up * amps[i]!;
      furthest = Math.max(furthest, up * (ampHours[run.index]! - ampHours[i]!));
      if (!(flows >= ALIKE.least * run.amps && flows <= ALIKE.most * run.amps)) continue;
      const over = at(leader, i) - level;
      if (over > 0) {
        later = over;
        laterAh = ampHours[i]!;
      }
      if (!(over <= 0)) continue;
      // Between this sample and the next it was exactly there.
      const part = later > 0 ? -over / (later - over) : 0;
      return Math.max(0, up * (ampHours[run.index]! - ampHours[i]! - part * (laterAh - ampHours[i]!)));
    }
    return furthest;
  };
  const sign = leads === (end === 'top') ? -1 : 1;
  const apart = at(leader, run.index) - follower;
  const least = apart <= 2 * APART ? 0 : since(follower + APART);
  const most = since(follower - APART);
  return { ampHours: sign * clamp(since(follower), least, most), least: sign * least, most: sign * most };
}

/** The last moment before an end at which the battery was still charged (or drawn on) as it had been. */
function lastOfRun(
  { time, amps }: CellLog,
  up: number,
  index: number,
): { index: number; amps: number } | null {
  let most = 0;
  for (let i = index; i >= 0 && time[index]! - time[i]! < RUN / 3; i--)
    if (up * amps![i]! > most) most = up * amps![i]!;
  if (!(most > 0)) return null;
  for (let i = index; i >= 0 && time[index]! - time[i]! < RUN; i--)
    if (up * amps![i]! >= most / 2) return { index: i, amps: up * amps![i]! };
  return null;
}
