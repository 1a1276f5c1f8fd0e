/** A load bypasses the monitor. */

import type { Cause } from './cause';
import { COVERAGE_ANSWERS, COVERAGE_WEIGHTS, missingCoverage, weighCoverage } from './coverage';

export const loadNotCounted: Cause = {
  code: 'load-not-counted',
  title: 'A load bypasses the monitor',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: [],
  needs: 'the wiring walk: which conductors pass the sensor',
  signature: 'the voltage falls faster than the count; the reading stays high',
  prior: { complained: -6, otherwise: -10 },
  onlyWhenSpokenOf: true,
  weights: COVERAGE_WEIGHTS,
  answers: COVERAGE_ANSWERS,
  tests: {
    'clamp-each-conductor': [
      { name: 'a load’s current that the monitor does not show', ifHolds: 0.95, ifNot: 0.03 },
      { name: 'the monitor shows each load', ifHolds: 0.05, ifNot: 0.97 },
    ],
  },
  described: (seen) => weighCoverage(seen, seen.system.loads, 'load'),
  missing: (seen) => missingCoverage(seen, seen.system.loads),
};
