/** A cell out of step with the others, its capacity good. */

import { counted } from '../quantity/text';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { CUT_PRIOR, cuttingOf, missingCuts } from './cutting';

const WEIGHTS = {
  under: [
    [0.25, 9],
    [0.12, 6],
    [0.05, 0],
    [0, -10],
  ],
  others: -8,
  highOther: 7,
  highToo: -10,
} as const;

export const cellImbalance: Cause = {
  code: 'cell-imbalance',
  title: 'A cell is out of step with the others',
  complaint: 'premature-cutoff',
  chemistries: ['lfp'],
  families: ['discharge'],
  needs: 'the voltage of each cell from full to empty',
  signature: 'first low on discharge but not first high on charge, or the other way round',
  prior: CUT_PRIOR,
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  tests: {
    'balance-at-low-current': [
      { name: 'after balancing it keeps up', ifHolds: 0.9, ifNot: 0.1 },
      { name: 'it falls behind again', ifHolds: 0.1, ifNot: 0.9 },
    ],
  },
  weigh(seen): Evidence[] {
    const cuts = cuttingOf(seen);
    const low = seen.cutoffs?.cells?.low;
    const high = seen.cutoffs?.cells?.high;
    if (!low || !cuts) return [];
    const same = low.times >= 0.7 * low.of;
    const evidence: Evidence[] = [
      {
        text: `Cell ${low.cell} was the lowest ${counted(low.times, 'time')} of ${low.of}, ${Math.round(1000 * low.under)} mV under the mean.`,
        decibans: same ? shrunk(weightOf(WEIGHTS.under, low.under), low.times) : WEIGHTS.others,
        group: 'low',
        spans: cuts.spans,
      },
    ];
    if (same && high && high.over > 0.03)
      evidence.push({
        text:
          high.cell === low.cell
            ? 'The same cell is first high on charge: it has lost capacity.'
            : `On charge another is first high, cell ${high.cell}: this one holds as much, but starts from less.`,
        decibans: shrunk(high.cell === low.cell ? WEIGHTS.highToo : WEIGHTS.highOther, high.times),
        group: 'high',
        spans: [],
      });
    return evidence;
  },
  missing: missingCuts,
  remedy: (seen) => ({
    text: `Charge at a low current at the charge voltage until cell ${seen.cutoffs?.cells?.low?.cell ?? ''} has caught up; hours to days at what the BMS bleeds. Then let it out and look whether it is still first low.`,
    caution: 'No cell above the limit of the BMS while balancing.',
  }),
};
