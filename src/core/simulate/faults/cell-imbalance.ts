/** A cell out of step with the others, its capacity good: first low and not first high. */

import { cutsOf, cutting, comeAgain } from './cutting';
import type { Fault } from './fault';

export const cellImbalance: Fault = {
  code: 'cell-imbalance',
  complaint: 'premature-cutoff',
  also: ['runner-stops-charge', 'capacity-wrong'],
  fits: ({ chemistry, halves }) => chemistry === 'lfp' && halves === null,
  patch(plan, random) {
    cutting(plan, random, {});
    plan.logsBms = true;
    const which = Math.floor(random.next() * plan.cells);
    plan.lithium.cells[which]!.charge -= random.uniform(0.25, 0.45);
    plan.meanLoadA = (plan.capacityAh * random.uniform(0.5, 0.75)) / 24;
  },
  hurts: (outcome) => comeAgain(cutsOf(outcome, 'bms', 'cell-low')),
};
