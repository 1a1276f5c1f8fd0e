/** Joints or cable to a load: it sees an emptier battery than there is. */

import type { Cause } from './cause';
import { PATH_ANSWERS, PATH_WEIGHTS, weighPaths } from './paths';

export const loadPathDrop: Cause = {
  code: 'load-path-drop',
  title: 'Resistance between battery and load',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  families: [],
  needs: 'the cable’s length and size and the load’s current, or millivolts over each joint under load',
  signature: 'battery voltage less voltage at the load in proportion to the current',
  prior: { complained: -6, otherwise: -12 },
  onlyWhenSpokenOf: true,
  weights: PATH_WEIGHTS,
  answers: PATH_ANSWERS,
  tests: {
    'millivolts-over-joints': [
      { name: 'a joint above 1 mΩ', ifHolds: 0.7, ifNot: 0.1 },
      { name: 'all joints well under', ifHolds: 0.3, ifNot: 0.9 },
    ],
  },
  described: (seen) =>
    weighPaths(
      seen,
      seen.system.loads.map((one) => ({ name: one.name, conductor: one.conductor, amps: one.usualA })),
    ),
  missing: () => ['millivolts over each joint under load'],
};
