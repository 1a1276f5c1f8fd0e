/** The tail current is set below what the battery ever comes down to, or has to last longer than a charger stays at its voltage. */

import { fullDays, logReading, readingOff, syncsOf, type Fault } from './fault';

export const tailUnreached: Fault = {
  code: 'tail-unreached',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    logReading(plan);
    const { settings } = plan.monitor;
    if (random.next() < 0.6) settings.tailPercent = random.pick([0.1, 0.2, 0.3, 0.5]);
    else {
      settings.detectionMinutes = random.pick([120, 180, 240]);
      const lowest = Math.min(...plan.chargers.map((one) => one.absorptionV));
      settings.chargedV = Number((lowest - 0.25 * plan.blocks).toFixed(1));
    }
  },
  // A reading that counts itself up to full is none the worse.
  hurts: (outcome) =>
    syncsOf(outcome.truth).length === 0 && fullDays(outcome) >= 3 && readingOff(outcome) > 5,
};
