/** One lithium cell runs ahead of the others, and the BMS stops the charge for it. */

import { isLead } from '../../system/chemistry';
import type { Fault } from './fault';

export const runnerStopsCharge: Fault = {
  code: 'runner-stops-charge',
  fits: ({ chemistry }) => !isLead(chemistry),
  patch(plan, random) {
    const ahead = random.uniform(0.04, 0.12);
    const runner = Math.floor(random.uniform(0, plan.cells));
    plan.startCharge = Math.min(plan.startCharge, 0.85);
    plan.lithium.cells[runner]!.charge += ahead;
    plan.lithium.bms.balanceA = 0.02;
    plan.logsBms = true;
  },
  hurts: ({ bestDaily }) => bestDaily < 99,
};
