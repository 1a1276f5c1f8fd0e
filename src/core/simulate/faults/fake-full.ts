/** A sulphated or shrunken battery that looks full after little. */

import { isLead } from '../../system/chemistry';
import { dailyLowest, type Fault } from './fault';

export const fakeFull: Fault = {
  code: 'fake-full',
  fits: ({ chemistry }) => isLead(chemistry),
  patch(plan, random) {
    plan.trueCapacityAh = plan.capacityAh * random.uniform(0.3, 0.55);
    plan.resistance = random.uniform(1.8, 2.8);
    plan.meanLoadA *= 0.8;
    plan.logsMonitor = true;
  },
  // One that is hardly used is not missed.
  hurts: ({ truth, plan }) => dailyLowest(truth, plan.days) < 75,
};
