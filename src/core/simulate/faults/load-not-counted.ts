/** A load is wired straight to the battery: the monitor does not see it. */

import { logReading, readingOff, type Fault } from './fault';

export const loadNotCounted: Fault = {
  code: 'load-not-counted',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    logReading(plan);
    plan.secondLoad = { share: random.uniform(0.25, 0.7), nightly: random.next() < 0.4 };
    plan.monitor.uncounted = ['load-2'];
    plan.monitor.describedCounted = random.pick([null, null, true, false]);
    plan.logsLoadsApart = random.next() < 0.5;
  },
  hurts: (outcome) => readingOff(outcome) > 8,
};
