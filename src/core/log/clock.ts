/** The clock of a device: the zone that its local times were written in, how far it was off, and how fast it runs away. */

import { DAY, MINUTE } from '../quantity/span';
import { localClock, zoneOffsetMinutes } from './localTime';

export interface Clock {
  /** Zone of times that were written without an offset. */
  timeZone: string;
  /** Added to every time, s: positive for a clock that is behind. */
  offsetSeconds: number;
  /** Added on top for every day since the first sample, s: positive for a clock that runs slow. */
  secondsPerDay: number;
}

/** Whether the times stay as they were read. */
export const isPlain = ({ offsetSeconds, secondsPerDay }: Clock): boolean =>
  offsetSeconds === 0 && secondsPerDay === 0;

/**
 * Times as read, brought to UTC by another clock.
 * @param read epoch ms as read, rising. @param readIn zone that local times were read in; null when every time carried its own offset
 * @returns epoch ms, rising: the very times given when nothing is to be done. @throws Error when the drift would turn time round
 */
export function setClock(read: Float64Array, readIn: string | null, clock: Clock): Float64Array {
  const zoned = readIn !== null && readIn !== clock.timeZone ? rezoned(read, readIn, clock.timeZone) : read;
  if (isPlain(clock) || zoned.length === 0) return zoned;
  const shift = clock.offsetSeconds * 1000;
  const rate = (clock.secondsPerDay * 1000) / DAY;
  if (rate <= -1) throw new Error('A clock cannot lose a day a day.');
  const first = zoned[0]!;
  // A whole shift keeps fractions of a millisecond as they are; a drift is no finer than the clock that was watched.
  return rate === 0
    ? zoned.map((ms) => ms + shift)
    : zoned.map((ms) => Math.round(ms + shift + rate * (ms - first)));
}

/** Local readings of one zone taken for those of another. They stay in order: an hour that comes twice is told apart by it. */
function rezoned(read: Float64Array, from: string, to: string): Float64Array {
  const toUtc = localClock(to);
  const out = new Float64Array(read.length);
  let until = -Infinity;
  let ahead = 0;
  for (let i = 0; i < read.length; i++) {
    const ms = read[i]!;
    if (ms >= until) {
      // No zone changes its clock within a quarter of an hour.
      until = (Math.floor(ms / QUARTER) + 1) * QUARTER;
      ahead = zoneOffsetMinutes(from, ms) * MINUTE;
    }
    const utc = toUtc(ms + ahead);
    // In an hour that the other zone skipped, times would fall back: they stay in order.
    out[i] = i > 0 && utc <= out[i - 1]! ? out[i - 1]! + 1 : utc;
  }
  return out;
}

const QUARTER = 15 * MINUTE;
