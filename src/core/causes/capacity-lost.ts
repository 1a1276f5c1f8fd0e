/** The battery holds less than it is rated for. */

import { isNumber, median } from '../quantity/numbers';
import { percent } from '../quantity/text';
import { AGE_WEIGHTS, weighAge } from './age';
import { type Cause, type Evidence, weightOf } from './cause';
import { cuttingOf } from './cutting';

const WEIGHTS = {
  /** What it holds with its doubt, parts of the label (80 %: IEEE Std 450, from memory). */
  holds: [
    [1, -10],
    [0.9, -5],
    [0.8, 3],
    [0.7, 9],
    [0, 13],
  ],
  shown: 3,
} as const;

/** What is left at the cut-offs, %, of a battery that is as good as empty. */
const EMPTY = 30;

export const capacityLost: Cause = {
  code: 'capacity-lost',
  title: 'The battery has lost capacity',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  families: [],
  needs: 'the state of cases and electrolyte, and age; a capacity test decides',
  signature: 'fewer ampere-hours from full to empty than the rating, corrected for rate and temperature',
  prior: { complained: -6, otherwise: -12 },
  onlyWhenSpokenOf: true,
  weights: { ...AGE_WEIGHTS, ...WEIGHTS },
  answers: {
    electrolyte: { found: 6, fine: -2, text: 'Electrolyte was found low: bare plates sulphate.' },
    case: { found: 8, fine: -1, text: 'A swollen, cracked or wet case was found.' },
  },
  tests: {
    'capacity-test': [
      { name: 'below 80 % of its rating', ifHolds: 0.92, ifNot: 0.06 },
      { name: 'near its rating', ifHolds: 0.08, ifNot: 0.94 },
    ],
  },
  described: weighAge,
  weigh(seen): Evidence[] {
    const { counting, bank } = seen;
    const cuts = cuttingOf(seen);
    if (!counting || !cuts || counting.wrong.gain !== 1 || counting.wrong.unseen.length > 0) return [];
    const { value, deviation } = counting.capacityAh;
    const part = value / bank.capacityAh;
    const doubt = deviation / bank.capacityAh;
    const evidence: Evidence[] = [];
    // Only an empty battery, or one close to it, tells how much it holds.
    if (cuts.held < EMPTY && doubt < 0.12)
      evidence.push({
        text: `From full to these cut-offs it gives what a battery of ${Math.round(value)} Ah gives (give or take ${Math.round(2 * deviation)} Ah): ${percent(100 * part)} of its ${bank.capacityAh} Ah.`,
        decibans: weightOf(WEIGHTS.holds, part + doubt),
        group: 'holds',
        spans: cuts.spans,
      });
    const shown = median(cuts.list.map((one) => one.shown - one.held).filter(isNumber));
    const byLabel = Math.abs((seen.system.monitor?.capacityAh ?? NaN) / bank.capacityAh - 1) < 0.1;
    if (cuts.held < EMPTY && shown > 20 && byLabel && part + doubt < 0.85)
      evidence.push({
        text: `A monitor that is set to the label still showed ${Math.round(shown)} points more than there were.`,
        decibans: WEIGHTS.shown,
        group: 'shown',
        spans: cuts.spans,
      });
    return evidence;
  },
  remedy: () => ({
    text: 'Prove it with a capacity test at the rated current and temperature. Under 80 % of its rating a battery is at its end; until it is replaced set the monitor to what it holds.',
    caution: null,
  }),
  missing: () => ['a capacity test'],
};
