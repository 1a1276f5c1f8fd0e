/** Resistance between the chargers and the battery: they see their target early. */

import { isLead } from '../../system/chemistry';
import { hurry, type Fault } from './fault';

export const chargePathDrop: Fault = {
  code: 'charge-path-drop',
  fits: ({ chemistry }) => isLead(chemistry),
  patch(plan, random) {
    hurry(plan, random);
    const volts = random.uniform(0.35, 0.8) * plan.blocks;
    for (const one of plan.chargers) {
      one.pathOhms = volts / one.ratedA;
      one.remoteSense = false;
      one.absorptionMinutes = random.pick([60, 90, 120]);
      one.tailA = undefined;
    }
    plan.logsMonitor = true;
    plan.chargers[0]!.logged = true;
  },
  hurts: ({ bestDaily }) => bestDaily < 97,
};
