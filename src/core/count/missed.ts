/** Full charges that did not set the reading to full: which criterion of the sync failed, and by how much. */

import { DAY, MINUTE, type Span } from '../quantity/span';
import { firstAtOrAfter, gapLimit, medianStep } from '../log/grid';
import type { Charge, SourceCharging } from '../charge/types';
import type { CounterLog } from './counterLog';
import type { CounterSettings } from './settings';
import type { JudgedSync, MissedSync } from './types';

/** After a charge a sync may still come for so long. */
const LATE = 60 * MINUTE;

/** Charges after which a reading ought to stand at full, those of several sources at one time as one. */
export function fullCharges(charging: readonly SourceCharging[]): (Span & { full: boolean })[] {
  const all = charging
    .flatMap((one) => one.charges)
    .filter((one) => one.full || wentThrough(one))
    .flatMap(eachTime)
    .sort((a, b) => a.from - b.from);
  const merged: (Span & { full: boolean })[] = [];
  for (const one of all) {
    const last = merged.at(-1);
    if (last && one.from < last.to) {
      last.to = Math.max(last.to, one.to);
      last.full ||= one.full;
    } else merged.push({ ...one });
  }
  return merged;
}

/** A charger that is never off charges day after day: each time that the battery stood full is a charge, to half way to the next. */
function eachTime({ from, to, full, heldFull }: Charge): (Span & { full: boolean })[] {
  if (to - from <= DAY || heldFull.length < 2) return [{ from, to, full }];
  const half = (k: number) => (heldFull[k - 1]!.to + heldFull[k]!.from) / 2;
  return heldFull.map((_, k) => ({
    from: k === 0 ? from : half(k),
    to: k === heldFull.length - 1 ? to : half(k + 1) - LATE,
    full,
  }));
}

/** Its charger went through absorption to float, which it may have done too soon. */
const wentThrough = ({ stages }: Charge): boolean =>
  stages.some(
    ({ stage, blocked, cutOff }, i) =>
      stage === 'absorption' && !blocked && !cutOff && stages[i + 1]?.stage === 'float',
  );

export function missedSyncs(
  log: CounterLog,
  settings: CounterSettings,
  charges: readonly (Span & { full: boolean })[],
  syncs: readonly Pick<JudgedSync, 'at'>[],
): MissedSync[] {
  if (!log.volts) return [];
  const { time, volts, amps, reading } = log;
  const step = medianStep(time);
  const limit = gapLimit(step);
  const needed = settings.detectionMinutes * MINUTE;
  const tail = (settings.tailPercent / 100) * settings.capacityAh;
  return charges.flatMap((charge): MissedSync[] => {
    if (syncs.some(({ at }) => at >= charge.from && at <= charge.to + LATE)) return [];
    const from = firstAtOrAfter(time, charge.from);
    const to = firstAtOrAfter(time, charge.to + LATE);
    if (to - from < 5) return [];
    const width = Math.max(1, Math.ceil(needed / step));
    let topVolts = NaN;
    let leastAmps = NaN;
    let heldVolts = 0;
    let heldBoth = 0;
    let longestVolts = 0;
    let longestBoth = 0;
    for (let i = from + 1; i < to; i++) {
      const ms = time[i]! - time[i - 1]!;
      const above = volts[i]! >= settings.chargedV && ms <= limit;
      heldVolts = above ? heldVolts + ms : 0;
      heldBoth = above && Math.abs(amps[i]!) < tail ? heldBoth + ms : 0;
      longestVolts = Math.max(longestVolts, heldVolts);
      longestBoth = Math.max(longestBoth, heldBoth);
    }
    for (let i = from; i + width <= to; i += Math.max(1, width >> 2)) {
      let low = Infinity;
      let high = -Infinity;
      let above = true;
      for (let k = i; k < i + width; k++) {
        if (volts[k]! < low) low = volts[k]!;
        const current = Math.abs(amps[k]!);
        if (current > high) high = current;
        if (!(volts[k]! >= settings.chargedV)) above = false;
      }
      if (low < Infinity && !(low <= topVolts)) topVolts = low;
      if (above && !(high >= leastAmps)) leastAmps = high;
    }
    const reason =
      longestVolts <= needed
        ? longestVolts > 0 && longestBoth > 0
          ? 'time'
          : 'voltage'
        : longestBoth === 0
          ? 'current'
          : longestBoth <= needed
            ? leastAmps >= 0.8 * tail
              ? 'current'
              : 'time'
            : 'unknown';
    // It needed none, or the log is too coarse to say.
    if (reason === 'unknown' && reading && reading.subarray(from, to).some((one) => one >= 99)) return [];
    return [
      {
        from: charge.from,
        to: charge.to,
        full: charge.full,
        reason,
        topVolts,
        leastAmps,
        heldMs: longestBoth,
      },
    ];
  });
}
