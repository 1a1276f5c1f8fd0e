/** One cell holds less than the others: first low while discharging, first high while charging. */

import { counted } from '../quantity/text';
import { type Cause, type Evidence, shrunk } from './cause';
import { CUT_PRIOR, missingCuts } from './cutting';
import { belowText, FIRST_LOW, lagText, lowCell, weightAt } from './lowCell';

const WEIGHTS = {
  ...FIRST_LOW,
  /** Where it stands when the others are full. */
  ahead: 9,
  level: 8,
  behind: -11,
  /** Where it stands at the highest of each day, where no charge comes near the top. */
  behindBelow: -7,
  levelBelow: 6,
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
    const low = lowCell(seen);
    if (!low) return [];
    const evidence = [low.evidence];
    if (low.isSame && low.atTop !== 'unknown')
      evidence.push({
        text: low.isBelow
          ? belowText(low)
          : low.atTop === 'behind'
            ? `When the others are full it is not${lagText(low.behindAh)}: it starts from less.`
            : low.atTop === 'ahead'
              ? `It is also the first to be full, ${counted(seen.cells!.tops, 'time')} looked at: it holds less.`
              : 'It is as full as the others at the top of charges, and empty before them: it holds less.',
        decibans: shrunk(weightAt(WEIGHTS, low), low.looked),
        group: 'high',
        spans: [],
      });
    return evidence;
  },
  missing: missingCuts,
  remedy: (seen) => ({
    text: `Measure the capacity of cell ${seen.cells?.low?.cell ?? ''} on its own; where it is well under the others, replace it with one of the same make and age. Balancing does not help it.`,
    caution:
      'Work on an open pack belongs to those who are trained for it: cover the other terminals, insulated tools.',
  }),
};
