/** The chargers hold more than the battery asks for: lead gasses, the BMS of a lithium battery stops the charge. */

import type { Fault } from './fault';

export const chargeVoltageHigh: Fault = {
  code: 'charge-voltage-high',
  fits: () => true,
  patch(plan, random) {
    const above = random.uniform(0.25, 0.6) * plan.blocks;
    for (const one of plan.chargers) one.absorptionV = Number((plan.chargeVolts.max + above).toFixed(2));
  },
  hurts: () => true,
};
