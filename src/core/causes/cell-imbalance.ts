/** A cell out of step with the others, its capacity good. */

import { type Cause, type Evidence, shrunk } from './cause';
import { CUT_PRIOR, FIRST_LOW, firstLow, missingCuts } from './cutting';

const WEIGHTS = {
  ...FIRST_LOW,
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
    const low = firstLow(seen);
    const high = seen.cutoffs?.cells?.high;
    if (!low) return [];
    const evidence = [low.evidence];
    if (low.same && high && high.over > 0.03)
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
