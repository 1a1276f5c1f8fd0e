/** More is drawn than comes in: the loads go off because the battery is empty, whatever was displayed. */

import { isLead } from '../../system/chemistry';
import { median } from '../../quantity/numbers';
import { chargeAt, cutsOf, cutting, comeAgain, usualCutoff } from './cutting';
import type { Fault } from './fault';

export const reallyEmpty: Fault = {
  code: 'really-empty',
  complaint: 'premature-cutoff',
  also: ['source-too-small', 'full-too-rarely', 'never-started'],
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    cutting(plan, random, isLead(plan.chemistry) || random.next() < 0.4 ? usualCutoff(plan, random) : {});
    const gives = plan.chargers.reduce((sum, one) => sum + one.givesA * (one.kind === 'solar' ? 5 : 9), 0);
    plan.meanLoadA = Math.max(
      (gives * random.uniform(0.9, 1.2)) / 24,
      (plan.capacityAh * random.uniform(0.3, 0.5)) / 24,
    );
    plan.startCharge = random.uniform(0.5, 0.95);
    plan.complaints = ['premature-cutoff'];
  },
  hurts: (outcome) => comeAgain(outcome.truth.cuts) && median(chargeAt(outcome, cutsOf(outcome))) < 15,
};
