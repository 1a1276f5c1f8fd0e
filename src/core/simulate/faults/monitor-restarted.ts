/** The monitor lost its supply and its count. */

import { DAY, HOUR } from '../../quantity/span';
import { logReading, type Fault } from './fault';

export const monitorRestarted: Fault = {
  code: 'monitor-restarted',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    logReading(plan);
    const percent = random.pick([0, 50, 100, 100]);
    const times = random.pick([1, 1, 2]);
    plan.monitor.meter.restarts = Array.from({ length: times }, (_, k) => ({
      at: plan.from + plan.days * DAY * random.uniform((k + 0.15) / times, (k + 0.8) / times),
      percent,
    }));
    plan.monitor.silentMs = random.uniform(0.2, 3) * HOUR;
  },
  hurts: (outcome) => {
    const { truth, plan } = outcome;
    const { time } = truth.series;
    return plan.monitor.meter.restarts!.some(({ at, percent }) => {
      const i = time.findIndex((one) => one >= at);
      return Math.abs(percent - truth.trueCharge[i]!) > 15;
    });
  },
};
