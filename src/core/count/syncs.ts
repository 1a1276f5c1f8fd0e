/** When the reading was set to full: found in the reported percentage. */

import { HOUR, type Span } from '../quantity/span';
import { gapLimit, medianStep } from '../log/grid';
import { type CounterLog, readingQuantum } from './counterLog';
import { SYNC_BELOW } from './replay';
import type { Jump } from './types';

export interface Sync {
  at: number;
  /** Reading before and after, %. */
  from: number;
  to: number;
  /** The log was silent just before: nobody saw how the reading got there. */
  afterGap: boolean;
}

/** Below this much under full since the last one a reading has been drawn on: a rise is then a sync of its own, %. */
const DRAWN = 2;
/** A rise that so many times what flowed accounts for was counted. */
const COUNTED = 1.3;
/** Without having been drawn on, one that follows within so long belongs to the last. */
const SAME_CHARGE = 12 * HOUR;

/**
 * Rises of the reading to 100 % from below 99.5 %. Several on one charge are one, the first.
 * A reading that counts up to 100 % by itself is none: where the current of the step accounts for the rise, and where a step of one
 * quantum comes after as long a wait as the steps before it.
 * @param capacityAh by which it counts @param charges that each count as one, where they are known
 */
export function syncsIn(log: CounterLog, capacityAh: number, charges: readonly Span[] = []): Sync[] {
  const { time, reading, amps } = log;
  if (!reading) return [];
  const quantum = readingQuantum(log);
  const full = 100 - Math.min(0.05, quantum / 2 || 0.05);
  const limit = gapLimit(medianStep(time));
  const found: Sync[] = [];
  let before = NaN;
  let beforeAt = -Infinity;
  /** When the reading came to the step that it stands on, and how long it stood on the one before. */
  let since = -Infinity;
  let stood = Infinity;
  let lowest = 100;
  for (let i = 0; i < time.length; i++) {
    const now = reading[i]!;
    if (now !== now) continue;
    const at = time[i]!;
    if (before === before && now >= full && before < SYNC_BELOW) {
      const most = Math.max(0, amps[i]!, amps[Math.max(0, i - 1)]!);
      const byCurrent = (100 * most * Math.min(at - beforeAt, limit)) / HOUR / capacityAh;
      const counted =
        now - before <= COUNTED * byCurrent + quantum ||
        (quantum >= 0.5 && now - before <= 1.01 * quantum && at - since > 0.5 * stood);
      const last = found.at(-1);
      const again =
        last !== undefined &&
        ((lowest > 100 - DRAWN - quantum && at - last.at < SAME_CHARGE) ||
          charges.some((one) => one.from <= last.at && at <= one.to));
      if (!counted && !again) found.push({ at, from: before, to: now, afterGap: at - beforeAt > limit });
      if (!counted) lowest = 100;
    }
    if (now !== before) {
      stood = now > before ? at - since : Infinity;
      since = at;
    }
    if (now < lowest) lowest = now;
    before = now;
    beforeAt = at;
  }
  return found;
}

/** Over so short a silence between two rows of one charge nothing but that charge sets a reading to full. */
const SHORT = HOUR;

/** Without rises over a silence that no charge explains; those within a charge count as seen. */
export const withoutRestarts = (syncs: readonly Sync[], jumps: readonly Jump[]): Sync[] =>
  syncs.flatMap((one) => {
    const jump = one.afterGap ? jumps.find(({ at }) => at === one.at) : undefined;
    if (jump && !jump.mayBeSync) return [];
    return jump?.charged && jump.silentMs <= SHORT ? [{ ...one, afterGap: false }] : [one];
  });
