/** A percentage that has drifted switches the load off, the battery being well. */

import { isNumber, median } from '../quantity/numbers';
import { counted, percent } from '../quantity/text';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { CUT_PRIOR, cuttingOf, missingCuts } from './cutting';

const WEIGHTS = {
  /** Share of the cut-offs that came at the percentage that is set. */
  atPercent: [
    [0.6, 10],
    [0.3, 5],
    [0.01, 0],
    [0, -10],
  ],
  /** What the battery held beyond the percentage shown, points. */
  beyond: [
    [25, 8],
    [15, 5],
    [8, 0],
    [-100, -10],
  ],
  well: 3,
} as const;

export const percentageCutoff: Cause = {
  code: 'percentage-cutoff',
  title: 'A drifted percentage switches the load off',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  families: ['discharge'],
  needs: 'the percentage at the cut-offs, and the battery’s current from a full charge on',
  signature: 'off at the same percentage each time, with a healthy voltage',
  prior: CUT_PRIOR,
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  tests: {
    'rest-check': [
      { name: 'rest voltage stands for far more than is shown', ifHolds: 0.9, ifNot: 0.15 },
      { name: 'the two agree', ifHolds: 0.1, ifNot: 0.85 },
    ],
  },
  weigh(seen): Evidence[] {
    const cuts = cuttingOf(seen);
    if (!cuts) return [];
    const at = cuts.list.filter((one) => one.why === 'percent');
    const evidence: Evidence[] = [
      {
        text:
          at.length === 0
            ? 'No cut-off came at a set percentage.'
            : `${counted(at.length, 'cut-off')} of ${cuts.list.length} came as the percentage shown reached ${percent(median(at.map((one) => one.shown)))}.`,
        decibans: shrunk(weightOf(WEIGHTS.atPercent, cuts.share('percent')), cuts.list.length),
        group: 'at',
        spans: cuts.spans,
      },
    ];
    const beyond = median(
      at
        .filter((one) => one.deviation <= 12)
        .map((one) => one.held - one.shown)
        .filter(isNumber),
    );
    if (isNumber(beyond))
      evidence.push({
        text: `The battery then held ${Math.abs(beyond).toFixed(0)} points ${beyond >= 0 ? 'more' : 'less'} than was shown.`,
        decibans: shrunk(weightOf(WEIGHTS.beyond, beyond), at.length),
        group: 'beyond',
        spans: cuts.spans,
      });
    if (at.length > 0 && cuts.restPercent > 60)
      evidence.push({
        text: 'Its voltage was healthy with the load away.',
        decibans: WEIGHTS.well,
        group: 'rest',
        spans: cuts.spans,
      });
    return evidence;
  },
  missing: missingCuts,
  remedy: () => ({
    text: 'Put the reading right first, and find why it drifted. Until then let the load go off by voltage, or by the percentage of the BMS.',
    caution: null,
  }),
};
