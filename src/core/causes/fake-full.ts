/** Lost capacity or sulphation looks like a full battery. */

import type { Cause } from './cause';
import { weighAge } from './age';

export const fakeFull: Cause = {
  code: 'fake-full',
  title: 'The battery looks full because it has shrunk',
  complaint: 'undercharging',
  chemistries: ['flooded', 'agm', 'gel'],
  needs: 'electrolyte and age; a capacity test decides',
  signature: 'absorption reached after few ampere-hours, the tail early, and few ampere-hours come out',
  prior: { complained: -8, otherwise: -12 },
  onlyWhenSpokenOf: true,
  tests: {
    'capacity-test': [
      { name: 'below 80 % of its rating', ifHolds: 0.9, ifNot: 0.1 },
      { name: 'near its rating', ifHolds: 0.1, ifNot: 0.9 },
    ],
  },
  weigh: (seen) => ({ evidence: weighAge(seen), missing: ['a capacity test'] }),
};
