/** The tail current is set too low, or the detection time too long: the monitor never calls the battery full. */

import { median } from '../quantity/numbers';
import { amps, percent } from '../quantity/text';
import { isLead } from '../system/chemistry';
import type { System } from '../system/schema';
import type { Cause, Evidence } from './cause';
import { DRIFT_PRIOR, missingMonitor } from './drifting';
import { MISSED_WEIGHTS, weighMissed } from './missedSync';

const WEIGHTS = {
  ...MISSED_WEIGHTS,
  /** Configured: a tail that hardly any battery comes down to, a time longer than chargers hold, or both as usual. */
  tinyTail: 6,
  longTime: 5,
  /** No charger of the system is set to stay at that voltage for so long. */
  longerThanSet: 15,
  usual: -2,
} as const;

/** % of capacity and minutes beyond which a setting is unusual (common practice, no source). */
const UNUSUAL = { tail: 0.75, minutes: 30 };

/** A charger may stay in absorption for more than its time by this factor. */
const LONGER = 1.5;

/** Minutes for which the chargers stay above the charged voltage at most, as they are set; null where that is not known of each. */
function longestSet({ sources, monitor }: Pick<System, 'sources' | 'monitor'>): number | null {
  const minutes = sources.map(({ profile }) =>
    profile.absorptionMinutes !== undefined && (profile.floatV ?? Infinity) < (monitor?.chargedV ?? 0)
      ? profile.absorptionMinutes
      : Infinity,
  );
  const longest = Math.max(0, ...minutes);
  return longest > 0 && longest < Infinity ? longest : null;
}

/** Minutes that the chargers stay there at most, where that is plainly less than the detection time. */
function shorterThanAsked(system: Pick<System, 'sources' | 'monitor'>): number | null {
  const longest = longestSet(system);
  const asked = system.monitor?.detectionMinutes ?? 0;
  return longest !== null && asked > UNUSUAL.minutes && asked > LONGER * longest ? longest : null;
}

export const tailUnreached: Cause = {
  code: 'tail-unreached',
  title: 'The monitor’s tail current or detection time is never met',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['counting'],
  needs: 'the battery’s voltage and current over charges that fill it, and the monitor’s settings',
  signature: 'the voltage criterion is met on full charges, the current or the time never',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  onSite: { 'never-synced': 4, 'has-synced': -5 },
  tests: {
    'float-current': [
      { name: 'the battery on float still takes more than the tail that is set', ifHolds: 0.85, ifNot: 0.08 },
      { name: 'it takes less', ifHolds: 0.15, ifNot: 0.92 },
    ],
    'read-monitor-settings': [
      { name: 'a tail under 1 % or a time over half an hour', ifHolds: 0.85, ifNot: 0.06 },
      { name: 'usual values', ifHolds: 0.15, ifNot: 0.94 },
    ],
  },
  described({ system }): Evidence[] {
    const { tailPercent, detectionMinutes, method } = system.monitor ?? {};
    if (method === 'voltage' || tailPercent === undefined || detectionMinutes === undefined) return [];
    const told = (text: string, decibans: number): Evidence => ({
      text,
      decibans,
      group: 'settings',
      spans: [],
    });
    if (tailPercent < UNUSUAL.tail)
      return [
        told(
          `The tail is set to ${percent(tailPercent)} of capacity: few batteries come down to that.`,
          WEIGHTS.tinyTail,
        ),
      ];
    const longest = shorterThanAsked(system);
    if (longest !== null)
      return [
        told(
          `Both criteria have to hold for ${detectionMinutes} min; no charger is set to absorb for more than ${longest} min, and float is under the charged voltage.`,
          WEIGHTS.longerThanSet,
        ),
      ];
    if (detectionMinutes > UNUSUAL.minutes)
      return [
        told(
          `Both criteria have to hold for ${detectionMinutes} min: longer than most chargers stay at their voltage.`,
          WEIGHTS.longTime,
        ),
      ];
    return [told(`A tail of ${percent(tailPercent)} and ${detectionMinutes} min are usual.`, WEIGHTS.usual)];
  },
  weigh(seen): Evidence[] {
    const evidence = weighMissed(seen, ['current', 'time']);
    // Where the time can never be held, a log too coarse for a short absorption misses its voltage, and clears nothing.
    return shorterThanAsked(seen.system) === null
      ? evidence
      : evidence.filter((one) => one.group !== 'missed' || one.decibans > 0);
  },
  remedy({ counting, bank }) {
    const least = (counting?.missed ?? []).map((one) => one.leastAmps).filter((one) => one === one);
    const usual = isLead(bank.chemistry) ? '4 % of capacity, 5 to 6 % with solar' : '2 to 5 % of capacity';
    const found =
      least.length > 0
        ? ` This battery came down to ${amps(median(least))}, ${percent((100 * median(least)) / bank.capacityAh)} of capacity: set it slightly above.`
        : '';
    return {
      text: `Set the tail slightly above what the battery takes five to ten minutes into float, usually ${usual}, and the detection time to 3 min.${found}`,
      caution: null,
    };
  },
  missing: (seen, evidence) => [
    ...missingMonitor(seen),
    ...(seen.counting && evidence.length === 0 ? ['a charge that fills the battery'] : []),
  ],
};
