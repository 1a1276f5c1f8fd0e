/** The load goes off by a percentage that has drifted: the battery is well. */

import { median } from '../../quantity/numbers';
import { chargeAt, cutsOf, cutting, comeAgain } from './cutting';
import type { Fault } from './fault';

export const percentageCutoff: Fault = {
  code: 'percentage-cutoff',
  complaint: 'premature-cutoff',
  // The reading has drifted for a reason: here its zero is off, or it knows no full charge.
  also: [
    'current-offset',
    'charged-voltage-unreached',
    'efficiency-wrong',
    'load-not-counted',
    'full-too-rarely',
  ],
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    const percent = random.pick([20, 25, 30, 40, 50]);
    cutting(plan, random, { cutoffPercent: percent, reconnectPercent: percent + 15 });
    plan.monitor.meter.offsetA = -plan.capacityAh * random.uniform(0.003, 0.006);
    plan.monitor.device.chargedV = 15.5 * plan.blocks;
    plan.monitor.settings.chargedV = 15.5 * plan.blocks;
  },
  hurts: (outcome) => {
    const cuts = cutsOf(outcome, 'load', 'percent');
    return comeAgain(cuts) && median(chargeAt(outcome, cuts)) > 60;
  },
};
