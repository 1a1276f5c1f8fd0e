/** The percentage is an inverter-charger's own: it counts its own current, and takes the end of its bulk for a fixed charge. */

import { logReading, readingOff, type Fault } from './fault';

export const bulkEndReset: Fault = {
  code: 'bulk-end-reset',
  complaint: 'drifting-soc',
  fits: ({ halves, chargers }) => halves === null && chargers.length > 1,
  patch(plan, random) {
    logReading(plan);
    const percent = random.pick([80, 80, 85]);
    plan.monitor.meter.bulkEnd = { source: 'charger', percent };
    if (random.next() < 0.7) Object.assign(plan.monitor.settings, { method: 'source-count' });
    if (random.next() < 0.5) plan.monitor.settings.bulkEndPercent = percent;
    // It knows no other full.
    plan.monitor.device.chargedV = 99 * plan.blocks;
  },
  hurts: (outcome) => readingOff(outcome) > 8,
};
