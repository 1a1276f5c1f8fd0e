/** Cold: less capacity and more resistance; warm, all is well. */

import { isNumber } from '../quantity/numbers';
import { celsius as degrees, volts } from '../quantity/text';
import { isLead } from '../system/chemistry';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { atCuts, CUT_PRIOR, cuttingOf, missingCuts } from './cutting';
import { LEAD_COLD, LITHIUM_COLD } from './remedy';

const WEIGHTS = {
  /** Degrees under ten at the cut-offs. */
  under10: [
    [12, 14],
    [8, 12],
    [5, 8],
    [1, 2],
    [-3, -5],
    [-99, -13],
  ],
  /** On warm days of the log nothing was cut off. */
  notWarm: 4,
  warmToo: -6,
  /** What the battery still held, %: the cold leaves a fifth of it or more where it is, and no cold is needed once it is empty. */
  held: [
    [50, 5],
    [25, 2],
    [18, 0],
    [12, -3],
    [0, -9],
  ],
  /** By steps of its current, parts of a good one's at that temperature: the cold alone explains it, or not. */
  asInTheCold: 3,
  highAnyway: -6,
  /** V a block lost on the way to the load. */
  lost: -8,
  dischargeStopped: 10,
} as const;

/** A battery that is this warm is not cold, °C. */
const MILD = 8;

export const coldBattery: Cause = {
  code: 'cold-battery',
  title: 'The battery is too cold',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  families: ['discharge'],
  needs: 'the battery’s temperature at the cut-offs, and on warmer days',
  signature: 'off when it is cold, fine when it is warm',
  prior: CUT_PRIOR,
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  tests: {
    'warm-the-battery': [
      { name: 'warm, it runs as it should', ifHolds: 0.9, ifNot: 0.15 },
      { name: 'warm, it goes off as before', ifHolds: 0.1, ifNot: 0.85 },
    ],
  },
  weigh(seen): Evidence[] {
    const cuts = cuttingOf(seen);
    if (!cuts || !isNumber(cuts.celsius)) return [];
    const evidence: Evidence[] = [
      {
        text: `${atCuts(cuts)} the battery was at ${degrees(cuts.celsius)} as a rule.`,
        decibans: shrunk(weightOf(WEIGHTS.under10, 10 - cuts.celsius), cuts.list.length),
        group: 'cold',
        spans: cuts.spans,
      },
    ];
    // In a log without warm hours a little less cold proves nothing.
    const { warm, middle, cold } = seen.cutoffs!.celsius;
    const level = Math.max(middle, MILD);
    if (cuts.celsius < 8 && warm - cold > 5 && warm > MILD) {
      const warmCuts = cuts.list.filter((one) => one.celsius > level).length / cuts.list.length;
      const part = level > middle ? 'Part' : 'Half';
      evidence.push({
        text: `${part} of the time it was warmer than ${degrees(level)}: ${warmCuts < 0.1 ? 'hardly any' : `${Math.round(100 * warmCuts)} %`} of them came then.`,
        decibans: warmCuts < 0.3 ? WEIGHTS.notWarm : warmCuts > 0.55 ? WEIGHTS.warmToo : 0,
        group: 'warm',
        spans: [],
      });
    }
    if (cuts.celsius < 8 && isNumber(cuts.held))
      evidence.push({
        text: `It still held ${cuts.held.toFixed(0)} %.`,
        decibans: shrunk(weightOf(WEIGHTS.held, cuts.held), cuts.list.length),
        group: 'held',
        spans: [],
      });
    const asInTheCold = isNumber(cuts.bySteps) ? cuts.bySteps < 1.8 : cuts.sag < 2.5;
    if (cuts.celsius < 8 && (cuts.bySteps > 2.6 || asInTheCold))
      evidence.push({
        text: `${cuts.bySteps > 2.6 ? 'Even for the cold' : 'For the cold'} its resistance is ${cuts.ohms.toFixed(1)} times a good one’s.`,
        decibans: cuts.bySteps > 2.6 ? WEIGHTS.highAnyway : WEIGHTS.asInTheCold,
        group: 'ohms',
        spans: [],
      });
    if (cuts.lost > 0.35)
      evidence.push({
        text: `${volts(cuts.lost)} a 12 V block are lost on the way to the load.`,
        decibans: WEIGHTS.lost,
        group: 'lost',
        spans: [],
      });
    if (cuts.share('cold') > 0.5)
      evidence.push({
        text: 'The BMS let nothing out, for the cold.',
        decibans: WEIGHTS.dischargeStopped,
        group: 'stopped',
        spans: cuts.spans,
      });
    return evidence;
  },
  missing: missingCuts,
  remedy: ({ bank }) => ({
    text: `Keep it warmer: insulation, a place indoors, a heater that runs from the charger. Until then count on less${isLead(bank.chemistry) ? ': at freezing a lead battery gives about three quarters' : ''}.`,
    caution: isLead(bank.chemistry) ? LEAD_COLD : LITHIUM_COLD,
  }),
};
