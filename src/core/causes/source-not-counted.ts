/** A charger bypasses the monitor. */

import type { Cause } from './cause';
import { COVERAGE_ANSWERS, COVERAGE_WEIGHTS, missingCoverage, weighCoverage } from './coverage';

export const sourceNotCounted: Cause = {
  code: 'source-not-counted',
  title: 'A charger bypasses the monitor',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: [],
  needs: 'the wiring walk: which conductors pass the sensor',
  signature: 'the reading walks down by what that charger gives, while the battery is full',
  prior: { complained: -5, otherwise: -10 },
  onlyWhenSpokenOf: true,
  weights: COVERAGE_WEIGHTS,
  answers: COVERAGE_ANSWERS,
  tests: {
    'clamp-each-conductor': [
      { name: 'a charger’s current that the monitor does not show', ifHolds: 0.95, ifNot: 0.03 },
      { name: 'the monitor shows each charger', ifHolds: 0.05, ifNot: 0.97 },
    ],
  },
  described: (seen) => weighCoverage(seen, seen.system.sources, 'source'),
  missing: (seen) => missingCoverage(seen, seen.system.sources),
};
