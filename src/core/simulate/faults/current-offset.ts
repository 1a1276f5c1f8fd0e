/** The monitor shows a current where none flows. */

import { logReading, readingOff, type Fault } from './fault';

export const currentOffset: Fault = {
  code: 'current-offset',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    logReading(plan);
    plan.monitor.meter.offsetA = random.pick([-1, 1]) * random.uniform(0.002, 0.005) * plan.capacityAh;
  },
  hurts: (outcome) => readingOff(outcome) > 8,
};
