/** The charge efficiency of the monitor is set far from what the battery gives back. */

import { percent } from '../quantity/text';
import { isLead } from '../system/chemistry';
import type { Chemistry } from '../system/schema';
import { tells } from '../count/device';
import { type Bands, type Cause, type Evidence, weightOf } from './cause';
import { countOf, driftEvidence, DRIFT_PRIOR, missingMonitor } from './drifting';

const WEIGHTS = {
  /** By how much it is set beyond what any school sets, %. */
  beyond: [
    [8, 14],
    [4, 9],
    [1, 3],
    [0.01, 0],
    [0, -4],
  ],
  /** What the battery gave back against what is counted, in standard deviations. */
  measured: [
    [4, 8],
    [2.5, 5],
    [1.5, 2],
    [0, -3],
  ],
  /** Part of the drift that it alone accounts for. */
  drift: [
    [0.6, 9],
    [0.35, 5],
    [0.15, 0],
    [-9, -5],
  ],
} as const satisfies Record<string, Bands>;

/** What schools set, % (common practice, no source). */
const SCHOOLS = { lead: { min: 75, max: 95 }, lithium: { min: 94, max: 100 } };

/** What the reading rises by for what goes in may be off by so much from what is set, %. */
const AS_SET = 4;

const schoolsOf = (chemistry: Chemistry) => (isLead(chemistry) ? SCHOOLS.lead : SCHOOLS.lithium);
const beyondSchools = (chemistry: Chemistry, set: number): number =>
  Math.max(0, schoolsOf(chemistry).min - set, set - schoolsOf(chemistry).max);

export const efficiencyWrong: Cause = {
  code: 'efficiency-wrong',
  title: 'The monitor’s charge efficiency is set wrong',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['counting'],
  needs: 'the monitor’s efficiency setting, and its percentage and current between full charges',
  signature: 'the jump at each sync is in proportion to the ampere-hours charged since the last',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  caps: { drift: 9 },
  onSite: { 'deeper-than-capacity': 2 },
  tests: {
    'read-monitor-settings': [
      { name: 'outside what any school sets', ifHolds: 0.9, ifNot: 0.08 },
      { name: 'as usual for the chemistry', ifHolds: 0.1, ifNot: 0.92 },
    ],
  },
  described({ system }): Evidence[] {
    const set = system.monitor?.efficiencyPercent;
    const { chemistry } = system.bank;
    if (set === undefined || !chemistry || system.monitor?.method === 'voltage') return [];
    const { min, max } = schoolsOf(chemistry);
    const beyond = beyondSchools(chemistry, set);
    return [
      {
        text: `Of what goes in, ${percent(set)} counts${beyond > 0 ? `; for ${isLead(chemistry) ? 'lead-acid' : 'lithium'} ${min} to ${max} % is usual` : ', which is usual'}.`,
        decibans: weightOf(WEIGHTS.beyond, beyond),
        group: 'settings',
        spans: [],
      },
    ];
  },
  weigh(seen): Evidence[] {
    const count = countOf(seen);
    if (!count) return [];
    const { behaves, settings, assumed, efficiencyPercent: battery } = count;
    const { chemistry } = seen.bank;
    const evidence: Evidence[] = [];
    // A reading that falls otherwise than it is set, and rises as it is, has another exponent or capacity.
    const rises = behaves ? (behaves.efficiencyPercent * settings.capacityAh) / behaves.capacityAh : NaN;
    const asSet = Math.abs(rises - settings.efficiencyPercent) < AS_SET;
    const plain = behaves && !asSet && tells(behaves) && behaves.efficiencyError < 3;
    const counts = plain ? behaves.efficiencyPercent : settings.efficiencyPercent;
    if (plain && (assumed.includes('efficiencyPercent') || Math.abs(counts - settings.efficiencyPercent) > 8))
      evidence.push({
        text: `The reading rises as if ${percent(counts)} of what goes in counted${assumed.includes('efficiencyPercent') ? '' : `, not the ${percent(settings.efficiencyPercent)} that is said to be set`}.`,
        decibans: weightOf(WEIGHTS.beyond, beyondSchools(chemistry, Math.min(counts, 100))),
        group: 'settings',
        spans: [count.logged],
      });
    const beyond = beyondSchools(chemistry, Math.min(100, counts));
    // What a school sets is never told off for a drift that every school has.
    if (beyond < 1) return evidence;
    if (battery.deviation < 0.9 * battery.before.deviation)
      evidence.push({
        text: `Over the log the battery gave back about ${percent(battery.value)} (give or take ${percent(2 * battery.deviation)}).`,
        decibans: weightOf(
          WEIGHTS.measured,
          Math.abs(counts - battery.value) / Math.max(battery.deviation, 1),
        ),
        group: 'measured',
        spans: [count.logged],
      });
    evidence.push(...driftEvidence(count, 'efficiency', WEIGHTS.drift));
    return evidence;
  },
  remedy: ({ bank }) => ({
    text: isLead(bank.chemistry)
      ? 'Set the efficiency to 85 %; 75 to 80 % where the battery is cycled near the top only. If the reading then still comes out low at each sync, raise it, and lower it if it comes out high.'
      : 'Set the efficiency to 98 % (95 to 99 % by school).',
    caution: null,
  }),
  missing: missingMonitor,
};
