/** Float above or below what the battery wants; lithium held high. */

import { isLead } from '../../system/chemistry';
import type { Fault } from './fault';

export const floatUnsuited: Fault = {
  code: 'float-unsuited',
  fits: ({ chargers }) => chargers.length === 1,
  patch(plan, random) {
    const one = plan.chargers[0]!;
    const lead = isLead(plan.chemistry);
    const volts = lead
      ? random.pick([random.uniform(12.9, 13.2), random.uniform(14.05, 14.2)])
      : random.uniform(13.8, 14.1);
    one.floatV = Number((volts * plan.blocks).toFixed(2));
    one.absorptionV = Math.max(one.absorptionV, one.floatV + 0.2 * plan.blocks);
  },
  hurts: () => true,
};
