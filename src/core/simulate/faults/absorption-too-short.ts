/** A timer ends absorption while the battery still takes current. */

import { isLead } from '../../system/chemistry';
import { absorptionsEnded, hurry, neverFull, type Fault } from './fault';

export const absorptionTooShort: Fault = {
  code: 'absorption-too-short',
  fits: ({ chemistry }) => isLead(chemistry),
  patch(plan, random) {
    hurry(plan, random);
    const minutes = random.pick([15, 20, 30, 40, 45]);
    for (const one of plan.chargers) {
      one.absorptionMinutes = minutes;
      one.tailA = undefined;
    }
  },
  // Where clouds keep it from ever getting there, it does nothing.
  hurts: (outcome) => neverFull(outcome) && absorptionsEnded(outcome.truth) >= 2,
};
