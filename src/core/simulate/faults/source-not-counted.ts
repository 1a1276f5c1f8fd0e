/** A charger is wired straight to the battery: the monitor does not see it. */

import { logReading, readingOff, type Fault } from './fault';

export const sourceNotCounted: Fault = {
  code: 'source-not-counted',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    logReading(plan);
    const one = random.pick(plan.chargers);
    if (random.next() < 0.7) one.logged = true;
    plan.monitor.uncounted = [one.id];
    plan.monitor.describedCounted = random.pick([null, null, true, false]);
  },
  hurts: (outcome) => readingOff(outcome) > 8,
};
