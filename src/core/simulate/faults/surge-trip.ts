/** Something that starts draws so much for a moment that the load's own protection trips. */

import { cutsOf, cutting, comeAgain } from './cutting';
import type { Fault } from './fault';

export const surgeTrip: Fault = {
  code: 'surge-trip',
  complaint: 'premature-cutoff',
  fits: ({ halves, everySeconds }) => halves === null && everySeconds <= 30,
  patch(plan, random) {
    const tripA = plan.capacityAh * random.uniform(0.5, 1);
    cutting(plan, random, {
      surge: { amps: tripA * random.uniform(1.05, 1.4), everyHours: random.pick([3, 5, 7]), tripA },
      told: random.next() < 0.9,
    });
    plan.logsLoadsApart = true;
  },
  hurts: (outcome) => comeAgain(cutsOf(outcome, 'load', 'surge')),
};
