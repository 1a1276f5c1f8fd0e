/** Lead that is charged alike in cold and heat. */

import { isLead } from '../../system/chemistry';
import type { Fault } from './fault';

export const compensationMissing: Fault = {
  code: 'compensation-missing',
  fits: ({ chemistry }) => isLead(chemistry),
  patch(plan, random) {
    for (const one of plan.chargers) one.compensationMv = 0;
    plan.climate.meanC = random.pick([random.uniform(0, 7), random.uniform(33, 38)]);
    plan.climate.dailyC = random.uniform(4, 9);
    plan.logsTemperature = true;
  },
  hurts: () => true,
};
