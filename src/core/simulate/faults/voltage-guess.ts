/** What looks like a monitor makes its percentage from the voltage. */

import { logReading, readingOff, type Fault } from './fault';

export const voltageGuess: Fault = {
  code: 'voltage-guess',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    logReading(plan);
    const { chemistry, blocks } = plan;
    plan.monitor.meter.volts = { chemistry, blocks };
    if (random.next() < 0.5) plan.monitor.settings.method = 'voltage';
  },
  hurts: (outcome) => readingOff(outcome) > 8,
};
