/** The exponent for fast discharges is set wrong. */

import { isLead } from '../system/chemistry';
import { tells } from '../count/device';
import { type Bands, type Cause, type Evidence, weightOf } from './cause';
import { countOf, driftEvidence, DRIFT_PRIOR, missingMonitor } from './drifting';

const WEIGHTS = {
  /** By how much it is set beyond what any school sets. */
  beyond: [
    [0.15, 13],
    [0.1, 10],
    [0.05, 7],
    [0.02, 2],
    [0.001, 0],
    [0, -5],
  ],
  /** Part of the drift that the exponent alone accounts for, and points that it makes. */
  drift: [
    [0.5, 9],
    [0.3, 5],
    [0.15, 0],
    [-9, -6],
  ],
  /** Currents above the rated one were hardly drawn: an exponent does nothing. */
  idle: -9,
} as const satisfies Record<string, Bands | number>;

/** What schools set (common practice, no source). */
const SCHOOLS = { lead: { min: 1.1, max: 1.3 }, lithium: { min: 1, max: 1.12 } };

const beyondSchools = (lead: boolean, set: number): number => {
  const { min, max } = lead ? SCHOOLS.lead : SCHOOLS.lithium;
  return Math.max(0, min - set, set - max);
};

/** Points that an exponent must make before it is a fault. */
const LEAST_POINTS = 2;

export const peukertWrong: Cause = {
  code: 'peukert-wrong',
  title: 'The monitor’s Peukert exponent is set wrong',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['counting'],
  needs: 'the exponent that is set, and the monitor’s percentage and current over fast and slow discharges',
  signature: 'the error grows with what is drawn fast, and not with what is drawn slowly',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  tests: {
    'read-monitor-settings': [
      { name: 'an exponent outside what any school sets', ifHolds: 0.92, ifNot: 0.05 },
      { name: 'as usual for the chemistry', ifHolds: 0.08, ifNot: 0.95 },
    ],
  },
  described({ system }): Evidence[] {
    const set = system.monitor?.peukert;
    const { chemistry } = system.bank;
    if (set === undefined || !chemistry || system.monitor?.method === 'voltage') return [];
    const beyond = beyondSchools(isLead(chemistry), set);
    return [
      {
        text: `The exponent is set to ${set.toFixed(2)}${beyond > 0 ? `; ${isLead(chemistry) ? 'lead-acid usually has 1.2 to 1.25' : 'lithium has 1.05 to 1.1'}` : ', which is usual'}.`,
        decibans: weightOf(WEIGHTS.beyond, beyond),
        group: 'settings',
        spans: [],
      },
    ];
  },
  weigh(seen): Evidence[] {
    const count = countOf(seen);
    if (!count) return [];
    const { behaves, settings, assumed } = count;
    const lead = isLead(seen.bank.chemistry);
    const evidence: Evidence[] = [];
    const counts = behaves && tells(behaves) ? behaves.peukert : settings.peukert;
    if (
      behaves &&
      tells(behaves) &&
      (assumed.includes('peukert') || Math.abs(counts - settings.peukert) > 0.08)
    )
      evidence.push({
        text: `Fast discharges move the reading as if the exponent were ${counts.toFixed(2)}.`,
        decibans: weightOf(WEIGHTS.beyond, beyondSchools(lead, counts)),
        group: 'settings',
        spans: [count.logged],
      });
    if (beyondSchools(lead, counts) < 0.01 || count.intervals.length === 0) return evidence;
    const most = Math.max(0, ...count.intervals.map((one) => Math.abs(one.parts.peukert)));
    if (most < LEAST_POINTS)
      evidence.push({
        text: 'Hardly anything is drawn faster than the rated current: the exponent does little here.',
        decibans: WEIGHTS.idle,
        group: 'drift',
        spans: [count.logged],
      });
    else evidence.push(...driftEvidence(count, 'peukert', WEIGHTS.drift));
    return evidence;
  },
  remedy: ({ bank }) => ({
    text: isLead(bank.chemistry)
      ? 'Set the exponent to 1.25, or what two capacities on the maker’s sheet give.'
      : 'Set the exponent to 1.05 (some set 1.1).',
    caution: null,
  }),
  missing: missingMonitor,
};
