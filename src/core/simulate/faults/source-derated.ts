/** A charger that gives far less than its plate says, from the start or as it warms. */

import { hurry, type Fault } from './fault';

export const sourceDerated: Fault = {
  code: 'source-derated',
  fits: ({ chargers }) => chargers.length === 1 && chargers[0]!.kind !== 'solar',
  patch(plan, random) {
    hurry(plan, random);
    const one = plan.chargers[0]!;
    const left = random.uniform(0.3, 0.55);
    if (random.next() < 0.5) one.givesA = one.ratedA * left;
    else {
      const { present } = one;
      const fadeHours = random.uniform(0.5, 1.5);
      // It is warm once it has run for a while.
      one.share = (ms) => (present(ms - fadeHours * 3_600_000) ? left : 1);
    }
  },
  hurts: ({ bestDaily }) => bestDaily < 98,
};
