/** An inner resistance that is high: the voltage sinks under every large load, though the battery is well charged. */

import { median } from '../../quantity/numbers';
import { chargeAt, cutsOf, cutting, heavy, comeAgain, usualCutoff } from './cutting';
import type { Fault } from './fault';

export const batteryResistance: Fault = {
  code: 'battery-resistance',
  complaint: 'premature-cutoff',
  // A run that is cut off within a minute shows only where the log is as fast.
  fits: ({ halves, everySeconds }) => halves === null && everySeconds <= 60,
  patch(plan, random) {
    plan.resistance *= random.uniform(2.6, 4);
    cutting(plan, random, {
      ...usualCutoff(plan, random),
      cutoffSeconds: random.pick([20, 60, 90]),
      heavy: heavy(plan, random, 0.25, 0.5),
    });
  },
  hurts: (outcome) =>
    comeAgain(cutsOf(outcome, 'load', 'volts')) && median(chargeAt(outcome, cutsOf(outcome))) > 40,
};
