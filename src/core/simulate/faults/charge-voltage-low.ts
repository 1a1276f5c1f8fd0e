/** All chargers hold less than the battery asks for. */

import { isLead } from '../../system/chemistry';
import { hurry, type Fault } from './fault';

export const chargeVoltageLow: Fault = {
  code: 'charge-voltage-low',
  fits: () => true,
  patch(plan, random) {
    hurry(plan, random);
    const below =
      (isLead(plan.chemistry) ? random.uniform(0.3, 0.6) : random.uniform(0.4, 0.75)) * plan.blocks;
    if (isLead(plan.chemistry))
      for (const one of plan.chargers) one.absorptionMinutes = Math.min(one.absorptionMinutes, 240);
    for (const one of plan.chargers) {
      one.absorptionV = Number((plan.chargeVolts.min - below).toFixed(2));
      one.floatV = Math.min(one.floatV, one.absorptionV - 0.2 * plan.blocks);
    }
  },
  // Lithium fills all the same, though its cells are never balanced.
  hurts: ({ bestDaily, plan }) => bestDaily < 97 || !isLead(plan.chemistry),
};
