/** A cell out of step with the others, its capacity good. */

import { type Cause, type Evidence, shrunk } from './cause';
import { CUT_PRIOR, missingCuts } from './cutting';
import { belowText, FIRST_LOW, lagText, lowCell, weightAt } from './lowCell';

const WEIGHTS = {
  ...FIRST_LOW,
  /** Where it stands when the others are full. */
  behind: 9,
  /** Where it stands at the highest of each day, where no charge comes near the top. */
  behindBelow: 6,
  levelBelow: -7,
  level: -9,
  ahead: -12,
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
    const low = lowCell(seen);
    if (!low) return [];
    const evidence = [low.evidence];
    if (low.isSame && low.atTop !== 'unknown')
      evidence.push({
        text: low.isBelow
          ? belowText(low)
          : low.atTop === 'behind'
            ? `When the others are full it is not${lagText(low.behindAh)}: it holds as much, but starts from less.`
            : `When the others are full it is so too${low.atTop === 'ahead' ? ', before them' : ''}: it has lost capacity.`,
        decibans: shrunk(weightAt(WEIGHTS, low), low.looked),
        group: 'high',
        spans: [],
      });
    return evidence;
  },
  missing: missingCuts,
  remedy: (seen) => ({
    text: `Charge at a low current at the charge voltage until cell ${seen.cells?.low?.cell ?? ''} has caught up; hours to days at what the BMS bleeds. Then let it out and look whether it is still first low.`,
    caution: 'No cell above the limit of the BMS while balancing.',
  }),
};
