/** Joints or cable to the load: it sees an emptier battery than there is. */

import { median } from '../../quantity/numbers';
import { chargeAt, cutsOf, cutting, heavy, comeAgain, usualCutoff } from './cutting';
import type { Fault } from './fault';

export const loadPathDrop: Fault = {
  code: 'load-path-drop',
  complaint: 'premature-cutoff',
  // A run that is cut off within a minute shows only where the log is as fast.
  fits: ({ halves, everySeconds }) => halves === null && everySeconds <= 60,
  patch(plan, random) {
    const runs = heavy(plan, random, 0.15, 0.4)!;
    cutting(plan, random, {
      ...usualCutoff(plan, random),
      cutoffSeconds: random.pick([20, 60, 90]),
      heavy: runs,
      logsVolts: true,
      pathOhms: (random.uniform(0.6, 1.3) * plan.blocks) / runs.amps,
    });
    plan.logsLoadsApart = true;
  },
  hurts: (outcome) =>
    comeAgain(cutsOf(outcome, 'load', 'volts')) && median(chargeAt(outcome, cutsOf(outcome))) > 40,
};
