/** Where the reading goes further in one step than anything that flowed: a restart, a reset, a hand on the buttons. */

import { median } from '../quantity/numbers';
import { DAY, HOUR, type Span } from '../quantity/span';
import { gapLimit, medianStep } from '../log/grid';
import { type CounterLog, readingQuantum } from './counterLog';
import { SYNC_BELOW } from './replay';
import type { CounterSettings } from './settings';
import type { Jump } from './types';

/** Less than this is no jump, %; smaller ones are resets where so many, and most of them, come to one value, within so much. */
const LEAST = 4;
const SMALL = { least: 1.5, fewest: 3, mostly: 0.6, same: 0.5 };
/** Nothing that nobody saw fills or empties a battery faster than this, parts of the capacity an hour. */
const UNSEEN_RATE = 0.06;

/**
 * A charge that came to its end within so long a silence sets the reading to full; it may have come down since, to no less than this, %, and
 * leaves the voltage higher by this part of the charged one.
 */
const CHARGED = { ms: HOUR, least: 90, rises: 0.01 };

/** A sync between two rows may have come down since; so many that were seen on their rows show that it does come to syncs. */
const SYNCS = 2;

/** Drawn on, or charged, by more than this, parts of the capacity in A. */
const DRAWN = 0.005;

/** As far as this part of it. */
const AS_FAR = 0.85;

/**
 * Rises to 100 % are syncs and not listed, unless the log was silent before.
 * @param counts what the device counts by: its capacity, and the voltage from which it may set itself to full
 * @param givenIn Ah that the sources gave in a silence of the counter by logs of their own; null where that is not known
 */
export function jumpsIn(
  log: CounterLog,
  { capacityAh, chargedV }: Pick<CounterSettings, 'capacityAh' | 'chargedV'>,
  givenIn: (silence: Span) => number | null = () => null,
): Jump[] {
  const { time, reading, amps, volts } = log;
  if (!reading) return [];
  const quantum = readingQuantum(log);
  const limit = gapLimit(medianStep(time));
  const found: Jump[] = [];
  const small: Jump[] = [];
  const cameDown: Jump[] = [];
  let syncs = 0;
  const reached: number[] = [];
  let last = -1;
  const drawnAtMost = amps.reduce((most, now) => (-now > most ? -now : most), 0);
  /** Points by which the reading went further from one row to another than what flowed accounts for, with their sign; 0 if it did not. */
  const beyond = (from: number, to: number, unseen = 0): number => {
    const went = reading[to]! - reading[from]!;
    // What flows in makes no reading fall, and what flows out none rise.
    const way = Math.sign(went);
    const flowed = Math.max(0, way * amps[to]!, way * amps[from]!) || 0;
    const hours = (time[to]! - time[from]!) / HOUR;
    const counted = 100 * Math.max(unseen, (1.5 * flowed * hours) / capacityAh);
    return way * Math.max(0, Math.abs(went) - 2 * quantum - counted);
  };
  // A mean over a jump stands at neither of its ends: the next row goes on the same way, or is full.
  const isMidway = (from: number, i: number): boolean => {
    const next = i + 1;
    if (!(next < time.length && time[next]! - time[from]! <= limit)) return false;
    const isNearly = reading[i]! > reading[from]! && reading[i]! < SYNC_BELOW;
    if (isNearly && reading[next]! >= SYNC_BELOW && volts !== null && volts[next]! >= chargedV) return true;
    const [first, second] = [beyond(from, i), beyond(i, next)];
    return first > 0 === second > 0 && Math.min(Math.abs(first), Math.abs(second)) > SMALL.least;
  };
  for (let i = 0; i < time.length; i++) {
    const now = reading[i]!;
    if (now !== now) continue;
    // Most steps are far too small, whatever flowed.
    if (last >= 0 && Math.abs(now - reading[last]!) > SMALL.least + 2 * quantum) {
      if (isMidway(last, i)) continue;
      const sinceMs = time[i]! - time[last]!;
      const hours = sinceMs / HOUR;
      const silent = sinceMs > limit;
      const from = reading[last]!;
      const way = Math.sign(now - from);
      const given = silent && way > 0 ? givenIn({ from: time[last]!, to: time[i]! }) : null;
      const unseen = given === null ? UNSEEN_RATE * hours : (1.5 * given) / capacityAh;
      const further = Math.abs(beyond(last, i, silent ? unseen : 0));
      const rises = now >= SYNC_BELOW;
      const isReached = volts !== null && Math.max(volts[i]!, volts[last]!) >= chargedV;
      const jump = {
        at: time[i]!,
        from,
        to: now,
        silentMs: silent ? sinceMs : 0,
        sinceMs,
        couldFall: (100 * drawnAtMost * hours) / capacityAh,
        charged: Math.min(amps[last]!, amps[i]!) > DRAWN * capacityAh,
        drawn: amps[last]! < -DRAWN * capacityAh && amps[i]! < DRAWN * capacityAh,
        mayBeSync:
          volts !== null &&
          ((rises && isReached) ||
            (silent &&
              sinceMs >= CHARGED.ms &&
              way > 0 &&
              !rises &&
              now >= CHARGED.least &&
              volts[i]! - volts[last]! >= CHARGED.rises * chargedV)),
      };
      if (!silent && way > 0 && further > LEAST) {
        if (rises && isReached) reached.push(time[i]!);
        if (rises) syncs++;
        else if (now >= CHARGED.least && now + jump.couldFall >= 100) cameDown.push(jump);
      }
      if (further <= LEAST) {
        if (further > SMALL.least && !silent && !rises) small.push(jump);
      } else if (silent ? rises || !goesAsFar(log, last, i, limit) : !rises) found.push(jump);
    }
    last = i;
  }
  if (syncs >= SYNCS) for (const one of cameDown) one.mayBeSync = true;
  for (const one of found) if (isOverSyncs(one, reached)) one.mayBeSync = true;
  const middle = median(small.map((one) => one.to));
  const resets = small.filter((one) => Math.abs(one.to - middle) <= SMALL.same + quantum);
  const areResets = resets.length >= SMALL.fewest && resets.length >= SMALL.mostly * small.length;
  return areResets ? [...found, ...resets].sort((a, b) => a.at - b.at) : found;
}

/** A silence over the hour at which the reading goes to full on other days: so it may have done on that day, and have come down since. */
function isOverSyncs({ at, from, to, silentMs, couldFall }: Jump, syncs: readonly number[]): boolean {
  if (silentMs === 0 || to < from || to < CHARGED.least || to + couldFall < 100) return false;
  const begins = at - silentMs;
  return syncs.filter((one) => (((one - begins) % DAY) + DAY) % DAY <= silentMs).length >= SYNCS;
}

/** A silence in which the reading goes no further than it is seen to go in as long hides loads or a charge, and no restart. */
function goesAsFar({ time, reading }: CounterLog, last: number, next: number, limit: number): boolean {
  const length = time[next]! - time[last]!;
  const went = reading![next]! - reading![last]!;
  let from = 0;
  for (let i = 1; i < time.length; i++) {
    // What goes on over another silence, or as a sync, is not seen to go.
    if (time[i]! - time[i - 1]! > limit || (reading![i]! >= SYNC_BELOW && went > 0)) from = i;
    while (time[i]! - time[from]! > length) from++;
    if ((reading![i]! - reading![from]!) / went >= AS_FAR) return true;
  }
  return false;
}
