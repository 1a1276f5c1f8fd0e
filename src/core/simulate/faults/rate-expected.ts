/** Nothing is wrong: so much at once that a good battery gives less, as the law of rates has it. */

import { isLead } from '../../system/chemistry';
import { median } from '../../quantity/numbers';
import { chargeAt, cutsOf, cutting, comeAgain, usualCutoff } from './cutting';
import type { Fault } from './fault';

export const rateExpected: Fault = {
  code: 'rate-expected',
  complaint: 'premature-cutoff',
  also: ['really-empty'],
  fits: ({ chemistry, halves }) => isLead(chemistry) && halves === null,
  patch(plan, random) {
    plan.trueCapacityAh = plan.capacityAh * random.uniform(0.97, 1.05);
    plan.resistance = random.uniform(0.7, 1);
    cutting(plan, random, {
      ...usualCutoff(plan, random),
      heavy: { amps: plan.capacityAh * random.uniform(0.3, 0.5), minutes: 180, everyHours: 24 },
    });
    plan.meanLoadA = plan.capacityAh * 0.004;
    plan.startCharge = 0.98;
    for (const one of plan.chargers) {
      one.givesA = Math.max(one.givesA, 0.15 * plan.capacityAh);
      one.ratedA = Number(one.givesA.toFixed(1));
    }
  },
  // Something stays in, as the law has it: a battery that is run flat is empty.
  hurts(outcome) {
    const cuts = cutsOf(outcome, 'load', 'volts');
    const left = median(chargeAt(outcome, cuts));
    return comeAgain(cuts) && outcome.bestDaily > 92 && left > 20 && left < 75;
  },
};
