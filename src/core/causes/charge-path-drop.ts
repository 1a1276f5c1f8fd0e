/** Resistance between a charger and the battery: the charger sees its target early. */

import type { Cause } from './cause';
import { weighPaths } from './paths';

export const chargePathDrop: Cause = {
  code: 'charge-path-drop',
  title: 'Resistance between charger and battery',
  complaint: 'undercharging',
  chemistries: 'all',
  needs: 'the cable’s length and size, or millivolts over each joint while charging',
  signature: 'charger voltage less battery voltage in proportion to the current',
  prior: { complained: -6, otherwise: -12 },
  onlyWhenSpokenOf: true,
  tests: {
    'millivolts-over-joints': [
      { name: 'a joint above 1 mΩ', ifHolds: 0.85, ifNot: 0.1 },
      { name: 'all joints well under', ifHolds: 0.15, ifNot: 0.9 },
    ],
  },
  weigh(seen) {
    const evidence = weighPaths(
      seen,
      seen.system.sources
        .filter((one) => one.senses !== 'battery')
        .map((one) => ({ name: one.name, conductor: one.conductor, amps: one.ratedA })),
    );
    return { evidence, missing: ['millivolts over each joint while charging'] };
  },
};
