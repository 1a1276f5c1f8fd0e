/** Joints or cable to a load: it sees an emptier battery than there is. */

import type { Cause } from './cause';
import { weighPaths } from './paths';

export const loadPathDrop: Cause = {
  code: 'load-path-drop',
  title: 'Resistance between battery and load',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  needs: 'the cable’s length and size and the load’s current, or millivolts over each joint under load',
  signature: 'battery voltage less voltage at the load in proportion to the current',
  prior: { complained: -6, otherwise: -12 },
  onlyWhenSpokenOf: true,
  tests: {
    'millivolts-over-joints': [
      { name: 'a joint above 1 mΩ', ifHolds: 0.7, ifNot: 0.1 },
      { name: 'all joints well under', ifHolds: 0.3, ifNot: 0.9 },
    ],
  },
  weigh(seen) {
    const evidence = weighPaths(
      seen,
      seen.system.loads.map((one) => ({ name: one.name, conductor: one.conductor, amps: one.usualA })),
    );
    return { evidence, missing: ['millivolts over each joint under load'] };
  },
};
