/** The battery holds less than it is rated for. */

import type { Cause } from './cause';
import { AGE_WEIGHTS, weighAge } from './age';

export const capacityLost: Cause = {
  code: 'capacity-lost',
  title: 'The battery has lost capacity',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  families: [],
  needs: 'the state of cases and electrolyte, and age; a capacity test decides',
  signature: 'fewer ampere-hours from full to empty than the rating, corrected for rate and temperature',
  prior: { complained: -6, otherwise: -12 },
  onlyWhenSpokenOf: true,
  weights: AGE_WEIGHTS,
  answers: {
    electrolyte: { found: 6, fine: -2, text: 'Electrolyte was found low: bare plates sulphate.' },
    case: { found: 8, fine: -1, text: 'A swollen, cracked or wet case was found.' },
  },
  tests: {
    'capacity-test': [
      { name: 'below 80 % of its rating', ifHolds: 0.92, ifNot: 0.06 },
      { name: 'near its rating', ifHolds: 0.08, ifNot: 0.94 },
    ],
  },
  described: weighAge,
  missing: () => ['a capacity test'],
};
