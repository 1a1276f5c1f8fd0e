/** Syncs by what the battery held: true, false or not sure; and those that a counter without a reading would have made. */

import { MINUTE } from '../quantity/span';
import { firstAtOrAfter } from '../log/grid';
import type { SourceCharging } from '../charge/types';
import type { CounterLog } from './counterLog';
import { type Reference, referenceAt } from './reference';
import { replay } from './replay';
import type { CounterSettings } from './settings';
import type { Sync } from './syncs';
import type { JudgedSync, SyncVerdict } from './types';

/** A sync is true at this charge and above, false under that one, %. */
const FULL = { least: 95, notUnder: 90 };

/** Without a reading: what a counter with these settings would have done. */
export function replayedSyncs(log: CounterLog, settings: CounterSettings, reference: Reference): Sync[] {
  const start = referenceAt(reference, log.time[0]!).percent;
  const { syncs } = replay(log, settings, start === start ? start : 50);
  return syncs.map(({ index, from }) => ({ at: log.time[index]!, from, to: 100, afterGap: false }));
}

/** A supply that failed so shortly before a sync may have made it. */
const SHORTLY = 10 * MINUTE;

/** When sources lost what they lived on. */
export const collapsesOf = (charging: readonly SourceCharging[]): number[] =>
  charging.flatMap(({ charges }) =>
    charges.flatMap(({ stages }) =>
      stages
        .filter(({ endedBy, stage }) => endedBy === 'source-lost' || stage === 'bulk')
        .map(({ to }) => to),
    ),
  );

export function judged(
  { at, from, to, afterGap }: Sync,
  log: CounterLog,
  reference: Reference,
  collapses: readonly number[],
): JudgedSync {
  const { percent, deviation } = referenceAt(reference, at);
  const i = Math.min(log.time.length - 1, firstAtOrAfter(log.time, at));
  const verdict: SyncVerdict = percent >= FULL.least ? 'true' : percent < FULL.notUnder ? 'false' : 'unsure';
  return {
    at,
    from,
    to,
    afterGap,
    judged: verdict,
    reference: percent,
    deviation,
    collapsed: collapses.some((one) => Math.abs(one - at) < SHORTLY),
    volts: log.volts ? log.volts[i]! : NaN,
    amps: log.amps[i]!,
  };
}
