/** The reading started where nobody set it, and no full charge has put it right since. */

import { isLead } from '../../system/chemistry';
import { hurry, logReading, readingOff, syncsOf, type Fault } from './fault';

export const neverStarted: Fault = {
  code: 'never-started',
  complaint: 'drifting-soc',
  also: ['source-too-small', 'full-too-rarely'],
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    hurry(plan, random);
    logReading(plan);
    for (const one of plan.chargers)
      one.givesA = one.ratedA = Number(
        (random.uniform(1.5, 2) * plan.meanLoadA * (one.kind === 'solar' ? 2.2 : 1)).toFixed(1),
      );
    plan.startCharge = isLead(plan.chemistry) ? random.uniform(0.5, 0.7) : 0.3;
    plan.monitor.startReading = 100;
    if (random.next() < 0.6) plan.monitor.settings.startPercent = 100;
  },
  hurts: (outcome) => syncsOf(outcome.truth).length === 0 && readingOff(outcome) > 20,
};
