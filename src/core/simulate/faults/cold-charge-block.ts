/** Charging is refused while the battery is cold. */

import { isLead } from '../../system/chemistry';
import type { Fault } from './fault';

export const coldChargeBlock: Fault = {
  code: 'cold-charge-block',
  fits: ({ chemistry }) => !isLead(chemistry),
  patch(plan, random) {
    if (random.next() < 0.5) {
      plan.climate.meanC = random.uniform(-4, 1);
      plan.logsBms = true;
    } else {
      plan.climate.meanC = random.uniform(1, 6);
      for (const one of plan.chargers) one.blockBelowC = 5;
    }
    plan.climate.dailyC = random.uniform(2, 6);
    plan.logsTemperature = true;
  },
  hurts: ({ bestDaily }) => bestDaily < 90,
};
