/** One cell holds less than the others: first low while discharging, first high while charging. */

import { isNumber } from '../quantity/numbers';
import { counted } from '../quantity/text';
import { type Cause, type Evidence, shrunk } from './cause';
import { CUT_PRIOR, FIRST_LOW, firstLow, missingCuts } from './cutting';

const WEIGHTS = {
  ...FIRST_LOW,
  /** The same cell is first high on charge; another one is. */
  highToo: 7,
  highOther: -9,
} as const;

export const weakCell: Cause = {
  code: 'weak-cell',
  title: 'One cell has lost capacity',
  complaint: 'premature-cutoff',
  chemistries: ['lfp'],
  families: ['discharge'],
  needs: 'the voltage of each cell from full to empty',
  signature: 'the same cell is first low on discharge and first high on charge',
  prior: CUT_PRIOR,
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  tests: {
    'cell-capacity': [
      { name: 'well under the others', ifHolds: 0.92, ifNot: 0.06 },
      { name: 'as the others', ifHolds: 0.08, ifNot: 0.94 },
    ],
  },
  weigh(seen): Evidence[] {
    const low = firstLow(seen);
    const high = seen.cutoffs?.cells?.high;
    if (!low) return [];
    const evidence = [low.evidence];
    if (low.same && high && isNumber(high.over) && high.over > 0.03)
      evidence.push({
        text:
          high.cell === low.cell
            ? `The same cell is first high on charge, ${counted(high.times, 'time')} of ${high.of}.`
            : `On charge cell ${high.cell} is first high, not this one.`,
        decibans:
          high.cell === low.cell
            ? shrunk(WEIGHTS.highToo, high.times)
            : shrunk(WEIGHTS.highOther, high.times),
        group: 'high',
        spans: [],
      });
    return evidence;
  },
  missing: missingCuts,
  remedy: (seen) => ({
    text: `Measure the capacity of cell ${seen.cutoffs?.cells?.low?.cell ?? ''} on its own; where it is well under the others, replace it with one of the same make and age. Balancing does not help it.`,
    caution:
      'Work on an open pack belongs to those who are trained for it: cover the other terminals, insulated tools.',
  }),
};
