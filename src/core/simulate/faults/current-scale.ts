/** The monitor is set to another shunt than the one that is fitted. */

import { logReading, readingOff, type Fault } from './fault';

export const currentScale: Fault = {
  code: 'current-scale',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    logReading(plan);
    plan.monitor.meter.gain = random.pick([0.5, 0.6, 0.75, 1.33, 1.5, 2]);
    plan.meanLoadA = (plan.capacityAh * random.uniform(0.25, 0.4)) / 24;
  },
  hurts: (outcome) => readingOff(outcome) > 8,
};
