/** One cell holds less than the others: first low while discharging, first high while charging. */

import { cutsOf, cutting, comeAgain } from './cutting';
import type { Fault } from './fault';

export const weakCell: Fault = {
  code: 'weak-cell',
  complaint: 'premature-cutoff',
  also: ['runner-stops-charge', 'capacity-lost', 'capacity-wrong'],
  fits: ({ chemistry, halves }) => chemistry === 'lfp' && halves === null,
  patch(plan, random) {
    cutting(plan, random, {});
    plan.logsBms = true;
    const which = Math.floor(random.next() * plan.cells);
    const part = random.uniform(0.5, 0.75);
    const cell = plan.lithium.cells[which]!;
    // All were full together once.
    cell.charge = 1 - (1 - cell.charge) / part;
    cell.capacityAh *= part;
    plan.meanLoadA = (plan.capacityAh * random.uniform(0.55, 0.85)) / 24;
  },
  hurts: (outcome) => comeAgain(cutsOf(outcome, 'bms', 'cell-low')),
};
