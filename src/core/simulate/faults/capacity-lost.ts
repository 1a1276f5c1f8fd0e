/** The battery holds far less than its label says: full in no time, empty in no time. */

import { isLead } from '../../system/chemistry';
import { median } from '../../quantity/numbers';
import { chargeAt, cutsOf, cutting, comeAgain, usualCutoff } from './cutting';
import { type Fault, fullDays } from './fault';

export const capacityLost: Fault = {
  code: 'capacity-lost',
  complaint: 'premature-cutoff',
  // A monitor that is set to the label counts by the wrong capacity, and the battery is empty when it cuts.
  also: ['capacity-wrong', 'really-empty', 'fake-full'],
  fits: ({ halves, chargers }) => halves === null && chargers.some((one) => one.kind !== 'solar'),
  patch(plan, random) {
    const part = random.uniform(0.4, 0.65);
    plan.trueCapacityAh *= part;
    plan.lithium.cells.forEach((one) => (one.capacityAh *= part));
    cutting(plan, random, isLead(plan.chemistry) || random.next() < 0.4 ? usualCutoff(plan, random) : {});
    plan.meanLoadA = (plan.capacityAh * random.uniform(0.45, 0.7)) / 24;
    for (const one of plan.chargers)
      if (one.kind !== 'solar') {
        const start = random.uniform(0, 24);
        one.present = (ms) => ((ms % 86_400_000) / 3_600_000 + 24 - start) % 24 < 11;
        one.givesA = Math.max(one.givesA, 0.2 * plan.capacityAh);
        one.ratedA = Number(one.givesA.toFixed(1));
      }
    plan.startCharge = 0.95;
  },
  hurts: (outcome) =>
    comeAgain(outcome.truth.cuts) &&
    fullDays(outcome) >= 2 &&
    median(chargeAt(outcome, cutsOf(outcome))) < 15,
};
