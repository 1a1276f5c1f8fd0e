/** The monitor sees one half of the bank, and the charger of the other gives it too little. */

import { logReading, readingOff, type Fault } from './fault';

export const halfBank: Fault = {
  code: 'half-bank',
  complaint: 'drifting-soc',
  ofHalves: true,
  fits: ({ halves }) => halves?.monitorSees === 'lower',
  patch(plan, random) {
    logReading(plan);
    const upper = plan.chargers.find((one) => one.across === 'upper')!;
    upper.givesA *= random.uniform(0.3, 0.5);
    upper.absorptionV -= random.uniform(0.2, 0.5) * (plan.blocks / 2);
    plan.meanLoadA = (plan.capacityAh * random.uniform(0.25, 0.4)) / 24;
    plan.logsMidpoint = true;
  },
  hurts: (outcome) => readingOff(outcome) > 8,
};
