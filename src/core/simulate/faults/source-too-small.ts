/** Sources that give too few ampere-hours a day for what is drawn. */

import { neverFull, type Fault } from './fault';

export const sourceTooSmall: Fault = {
  code: 'source-too-small',
  fits: ({ chargers }) => chargers.length === 1,
  patch(plan, random) {
    const drawn = plan.capacityAh * random.uniform(0.25, 0.45);
    plan.meanLoadA = drawn / 24;
    for (const one of plan.chargers) {
      const hours = one.kind === 'solar' ? 6 : one.kind === 'generator' ? 7 : 20;
      one.ratedA = Number(((drawn * random.uniform(0.6, 0.85)) / hours).toFixed(1));
      one.givesA = one.ratedA;
      if (one.tailA !== undefined) one.tailA = 0.01 * plan.capacityAh + plan.meanLoadA;
    }
    plan.climate.clear = random.uniform(0.3, 0.6);
    plan.startCharge = random.uniform(0.45, 0.9);
  },
  hurts: neverFull,
};
