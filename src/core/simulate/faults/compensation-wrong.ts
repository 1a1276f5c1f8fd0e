/** A slope far too steep, a sensor that is off, or lithium compensated. */

import { isLead } from '../../system/chemistry';
import type { Fault } from './fault';

export const compensationWrong: Fault = {
  code: 'compensation-wrong',
  fits: () => true,
  patch(plan, random) {
    const cold = random.next() < 0.5;
    plan.climate.meanC = cold ? random.uniform(3, 10) : random.uniform(32, 37);
    plan.logsTemperature = true;
    const how = isLead(plan.chemistry) ? random.pick(['steep', 'sensor'] as const) : 'lithium';
    for (const one of plan.chargers) {
      if (how === 'sensor') one.sensorOffC = random.pick([-1, 1]) * random.uniform(12, 18);
      else one.compensationMv = how === 'steep' ? random.uniform(-10, -8) : -4;
    }
  },
  hurts: () => true,
};
