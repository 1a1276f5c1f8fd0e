/** The loads went off because the battery was empty, whatever was displayed. */

import { isNumber, median } from '../quantity/numbers';
import { percent, volts } from '../quantity/text';
import { isLead } from '../system/chemistry';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { atCuts, CUT_PRIOR, cuttingOf, missingCuts } from './cutting';

const WEIGHTS = {
  /** What the battery held at the cut-offs, %. */
  held: [
    [50, -14],
    [35, -9],
    [25, -2],
    [18, 6],
    [8, 13],
    [0, 15],
  ],
  /** What its voltage stood for when it had recovered, %. */
  rest: [
    [60, -9],
    [35, -4],
    [20, 2],
    [0, 5],
  ],
  /** Its own voltage was under its knee, at a current that does not bring a charged one there. */
  underKnee: 4,
  /** One cell alone was low, the others well. */
  oneCell: -12,
} as const;

/** V a 12 V block under the knee, and the current up to which a sound battery stands there only empty, parts of the capacity in A (common practice, no source). */
const KNEE = { lead: { volts: 11.5, drawn: 0.06 }, lithium: { volts: 12.2, drawn: 0.3 } };
/** V by which the lowest cell stands under a healthy mean. */
const ALONE = { under: 0.25, mean: 3.1 };

export const reallyEmpty: Cause = {
  code: 'really-empty',
  title: 'The battery was empty',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  families: ['discharge'],
  needs: 'the battery’s current and voltage over a full charge and a cut-off',
  signature:
    'little was left by the count from the last full charge, and the voltage stays low with the loads away',
  prior: CUT_PRIOR,
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  onSite: { emptied: 5 },
  tests: {
    'full-charge-and-sync': [
      { name: 'charged full it runs as long as it should', ifHolds: 0.85, ifNot: 0.2 },
      { name: 'it goes off as early as before', ifHolds: 0.15, ifNot: 0.8 },
    ],
  },
  weigh(seen): Evidence[] {
    const cuts = cuttingOf(seen);
    if (!cuts) return [];
    const evidence: Evidence[] = [];
    if (isNumber(cuts.held))
      evidence.push({
        text: `${atCuts(cuts)} the battery held ${percent(cuts.held)} as a rule.`,
        decibans: shrunk(weightOf(WEIGHTS.held, cuts.held), cuts.list.length),
        group: 'held',
        spans: cuts.spans,
      });
    if (isNumber(cuts.restPercent))
      evidence.push({
        text: `With the loads away its voltage came back to ${volts(cuts.rest)} a 12 V block${isLead(seen.bank.chemistry) ? `, as at ${percent(cuts.restPercent)}` : ''}.`,
        decibans: shrunk(weightOf(WEIGHTS.rest, cuts.restPercent), cuts.list.length),
        group: 'rest',
        spans: cuts.spans,
      });
    const lead = isLead(seen.bank.chemistry);
    const knee = lead ? KNEE.lead : KNEE.lithium;
    const drawn = median(cuts.list.map((one) => one.amps).filter(isNumber)) / seen.bank.capacityAh;
    if (cuts.volts < knee.volts && drawn <= knee.drawn)
      evidence.push({
        text: `It stood at ${volts(cuts.volts)} a 12 V block then, which the current alone does not make of a charged one.`,
        decibans: shrunk(WEIGHTS.underKnee, cuts.list.length),
        group: 'knee',
        spans: cuts.spans,
      });
    const alone = cuts.list.filter((one) => one.meanV - one.lowestV > ALONE.under && one.meanV > ALONE.mean);
    if (alone.length > cuts.list.length / 2)
      evidence.push({
        text: 'One cell was low, the others were well.',
        decibans: WEIGHTS.oneCell,
        group: 'cells',
        spans: cuts.spans,
      });
    return evidence;
  },
  missing: missingCuts,
  remedy: () => ({
    text: 'Charge it full and look at why it did not get there: more is drawn than comes in, or the reading said there was more. Cut-offs at this state are right; leave their settings.',
    caution: null,
  }),
};
