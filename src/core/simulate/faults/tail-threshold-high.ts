/** The chargers end absorption at too high a current. */

import { isLead } from '../../system/chemistry';
import { absorptionsEnded, hurry, neverFull, type Fault } from './fault';

export const tailThresholdHigh: Fault = {
  code: 'tail-threshold-high',
  fits: ({ chemistry }) => isLead(chemistry),
  patch(plan, random) {
    hurry(plan, random);
    const percent = random.uniform(5, 9);
    for (const one of plan.chargers)
      one.tailA = (percent / 100) * plan.capacityAh + plan.meanLoadA / plan.chargers.length;
  },
  // Where clouds keep it from ever getting there, it does nothing.
  hurts: (outcome) => neverFull(outcome) && absorptionsEnded(outcome.truth) >= 2,
};
