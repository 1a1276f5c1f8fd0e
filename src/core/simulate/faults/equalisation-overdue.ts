/** Flooded cells that are due: attempts that never reach the voltage, or none. */

import { DAY } from '../../quantity/span';
import { type Fault, isHeld, minutesIn } from './fault';

export const equalisationOverdue: Fault = {
  code: 'equalisation-overdue',
  fits: ({ chemistry, chargeEveryDays }) => chemistry === 'flooded' && chargeEveryDays === 1,
  patch(plan, random) {
    const volts = 15.5 * plan.blocks;
    plan.bankEqualise = { volts, minutes: 60, everyDays: 30, lastOn: '2025-11-20' };
    if (random.next() < 0.6)
      for (const one of plan.chargers) {
        one.equalise = { volts, minutes: 120, dueAt: [1, 2, 3].map((k) => plan.from + k * 3 * DAY) };
        one.givesA = one.ratedA = Math.min(one.givesA, 0.05 * plan.capacityAh + 1.5 * plan.meanLoadA);
      }
  },
  // One that is held for its time is no longer overdue; a source too small for the site would be a fault of its own.
  hurts: ({ truth, plan, bestDaily }) =>
    bestDaily > 90 &&
    plan.chargers.every(({ id }) => minutesIn(truth, (i) => isHeld(truth, id, 'equalise', i)) < 45),
};
