/** The charge efficiency is set far from what the battery gives back. */

import { isLead } from '../../system/chemistry';
import { logReading, readingOff, type Fault } from './fault';

export const efficiencyWrong: Fault = {
  code: 'efficiency-wrong',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    logReading(plan);
    plan.monitor.settings.efficiencyPercent = isLead(plan.chemistry)
      ? random.pick([55, 60, 65])
      : random.pick([75, 80, 85]);
    plan.meanLoadA = (plan.capacityAh * random.uniform(0.3, 0.45)) / 24;
  },
  hurts: (outcome) => readingOff(outcome) > 8,
};
