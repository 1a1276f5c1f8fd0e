/** Criteria so easy that a cloud, or a charger that gives little, makes the monitor call the battery full. */

import { isLead } from '../../system/chemistry';
import { logReading, syncsOf, type Fault } from './fault';

export const falseSync: Fault = {
  code: 'false-sync',
  complaint: 'drifting-soc',
  fits: ({ halves }) => halves === null,
  patch(plan, random) {
    logReading(plan);
    const { settings } = plan.monitor;
    settings.chargedV = Number(
      (
        (isLead(plan.chemistry) ? random.uniform(12.9, 13.4) : random.uniform(13.2, 13.45)) * plan.blocks
      ).toFixed(1),
    );
    settings.tailPercent = random.pick([8, 10, 15]);
    settings.detectionMinutes = random.pick([0, 1, 1]);
    plan.meanLoadA = (plan.capacityAh * random.uniform(0.2, 0.35)) / 24;
    if (plan.chargers.some((one) => one.kind === 'solar'))
      Object.assign(plan.climate, { clear: random.uniform(0.15, 0.35), mixed: random.uniform(0.3, 0.5) });
  },
  hurts: ({ truth }) => syncsOf(truth).filter((one) => one < 88).length >= 2,
};
