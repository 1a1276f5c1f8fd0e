/** The sensor sits the wrong way round: charging reads as drawing. */

import { logReading, readingOff, type Fault } from './fault';

export const sensorReversed: Fault = {
  code: 'sensor-reversed',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan) {
    logReading(plan);
    plan.monitor.meter.gain = -1;
  },
  hurts: (outcome) => readingOff(outcome) > 8,
};
