/** Completed charges without a sync: shared by the causes that keep a monitor from ever calling the battery full. */

import { median } from '../quantity/numbers';
import { amps, capital, duration, percent, share, volts } from '../quantity/text';
import { MINUTE } from '../quantity/span';
import type { Counting, MissedSync } from '../count/types';
import type { Evidence, Observations } from './cause';
import { shrunk } from './cause';
import { countOf, seenSyncs } from './drifting';

export const MISSED_WEIGHTS = {
  /** On (nearly) all full charges one and the same criterion failed. */
  allFailed: 15,
  /** Of a charge that went through its stages without the battery being surely full. */
  claimed: 13,
  /** The reading was set to full by a charge. */
  synced: -12,
  /** The other criterion failed. */
  otherFailed: -8,
} as const;

type Reason = MissedSync['reason'];

/** @param reasons which failures speak for the cause */
export function weighMissed(seen: Observations, reasons: readonly Reason[]): Evidence[] {
  const count = countOf(seen);
  if (!count || count.assumed.includes('chargedV') || count.assumed.includes('tailPercent')) return [];
  const { missed, settings } = count;
  const own = missed.filter((one) => reasons.includes(one.reason));
  const synced = seenSyncs(count);
  const evidence: Evidence[] = [];
  if (synced.length > 0)
    evidence.push({
      text: `The reading was set to full ${synced.length === 1 ? 'once' : `${synced.length} times`} in this log${count.replayed ? ', going by the settings entered' : ''}.`,
      decibans: shrunk(MISSED_WEIGHTS.synced, synced.length),
      group: 'synced',
      spans: synced.map(({ at }) => ({ from: at - MINUTE, to: at + MINUTE })),
    });
  if (missed.length === 0) return evidence;
  // By its charger's word a charge may be done with the battery not full.
  const charge = missed.every((one) => one.full) ? 'full charge' : 'completed charge';
  const others = missed.filter((one) => !reasons.includes(one.reason) && one.reason !== 'unknown').length;
  if (own.length > 0 && own.length >= 2 * others) {
    const sure = own.filter((one) => one.full);
    const least = sure.length >= own.length / 2 ? MISSED_WEIGHTS.allFailed : MISSED_WEIGHTS.claimed;
    evidence.push({
      text: `${capital(share(own.length, missed.length + synced.length, charge))} left the reading as it was: ${why(own, count)}`,
      decibans: shrunk(least, own.length),
      group: 'missed',
      spans: own,
    });
  } else if (others > 0)
    evidence.push({
      text: `${capital(share(others, missed.length, charge))} without a sync failed on something else: ${reasons.includes('voltage') ? `the voltage was above the ${volts(settings.chargedV)} of the setting` : `the voltage did not reach the ${volts(settings.chargedV)} of the setting`}.`,
      decibans: shrunk(MISSED_WEIGHTS.otherFailed, others),
      group: 'missed',
      spans: missed.filter((one) => !reasons.includes(one.reason) && one.reason !== 'unknown'),
    });
  return evidence;
}

function why(missed: readonly MissedSync[], { settings }: Counting): string {
  const most = (reason: Reason) => missed.filter((one) => one.reason === reason).length >= missed.length / 2;
  const needed = duration(settings.detectionMinutes * MINUTE);
  if (most('voltage'))
    return `the voltage stood at ${volts(median(missed.map((one) => one.topVolts)))} at most, and the charged voltage is set to ${volts(settings.chargedV)}.`;
  const tail = (settings.tailPercent / 100) * settings.capacityAh;
  if (most('time'))
    return `both criteria held together for ${duration(median(missed.map((one) => one.heldMs)))} at most, and ${needed} are asked for.`;
  return `above the charged voltage the current came down to ${amps(median(missed.map((one) => one.leastAmps)))}, and the tail is set to ${amps(tail)}, ${percent(settings.tailPercent)} of ${settings.capacityAh} Ah.`;
}
