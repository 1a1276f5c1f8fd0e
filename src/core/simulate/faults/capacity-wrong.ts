/** The monitor was left at another capacity than the battery's. */

import { logReading, readingOff, type Fault } from './fault';

export const capacityWrong: Fault = {
  code: 'capacity-wrong',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    logReading(plan);
    const { settings } = plan.monitor;
    const times = random.pick([random.uniform(0.45, 0.65), random.uniform(1.5, 2.2)]);
    // The tail is in per cent of it: its amperes stay.
    settings.tailPercent = Number((settings.tailPercent / times).toFixed(1));
    settings.capacityAh = 10 * Math.round((plan.capacityAh * times) / 10);
    plan.meanLoadA = (plan.capacityAh * random.uniform(0.3, 0.45)) / 24;
  },
  hurts: (outcome) => readingOff(outcome) > 8,
};
