/** The disconnect is set above what the battery needs at this load. */

import { isLead } from '../../system/chemistry';
import { median } from '../../quantity/numbers';
import { chargeAt, cutsOf, cutting, heavy, comeAgain } from './cutting';
import type { Fault } from './fault';

export const cutoffSetHigh: Fault = {
  code: 'cutoff-set-high',
  complaint: 'premature-cutoff',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    const perBlock = isLead(plan.chemistry) ? random.uniform(12.1, 12.4) : random.uniform(12.9, 13.1);
    cutting(plan, random, {
      cutoffV: Number((perBlock * plan.blocks).toFixed(1)),
      cutoffSeconds: random.pick([20, 60]),
      reconnectV: (perBlock + 0.4) * plan.blocks,
      ...(plan.everySeconds <= 60 && random.next() < 0.6 ? { heavy: heavy(plan, random, 0.08, 0.15)! } : {}),
    });
    plan.meanLoadA = Math.max(plan.meanLoadA, (plan.capacityAh * random.uniform(0.3, 0.5)) / 24);
  },
  hurts: (outcome) =>
    comeAgain(cutsOf(outcome, 'load', 'volts')) && median(chargeAt(outcome, cutsOf(outcome))) > 45,
};
