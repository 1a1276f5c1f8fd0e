/** The charged voltage is set above anything that the chargers reach: the monitor never finds the battery full. */

import { isLead } from '../../system/chemistry';
import { fullDays, logReading, readingOff, syncsOf, type Fault } from './fault';

export const chargedVoltageUnreached: Fault = {
  code: 'charged-voltage-unreached',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    logReading(plan);
    const highest = Math.max(...plan.chargers.map((one) => one.absorptionV));
    const warm = -0.006 * Math.min(0, plan.climate.meanC - plan.climate.dailyC - 25) * plan.blocks;
    const above = random.uniform(0.15, 0.6) * plan.blocks + (isLead(plan.chemistry) ? warm : 0);
    plan.monitor.settings.chargedV = Number((highest + above).toFixed(1));
  },
  // A reading that counts itself up to full is none the worse.
  hurts: (outcome) =>
    syncsOf(outcome.truth).length === 0 && fullDays(outcome) >= 3 && readingOff(outcome) > 5,
};
