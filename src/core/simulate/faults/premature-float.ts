/** The sun, set higher, holds the voltage up by day, and the mains charger believes that the battery is full; mains is there only by day. */

import { isLead } from '../../system/chemistry';
import { DAY, HOUR } from '../../quantity/span';
import type { ChargerPlan } from '../sitePlan';
import { type Fault, neverFull } from './fault';

export const prematureFloat: Fault = {
  code: 'premature-float',
  fits: ({ chargers, chemistry }) =>
    isLead(chemistry) && chargers.length === 2 && chargers.filter((one) => one.kind === 'solar').length === 1,
  patch(plan, random) {
    const mains = plan.chargers.find((one) => one.kind !== 'solar') as ChargerPlan;
    const sun = plan.chargers.find((one) => one.kind === 'solar') as ChargerPlan;
    plan.meanLoadA = (plan.capacityAh * random.uniform(0.25, 0.4)) / 24;
    sun.ratedA = sun.givesA = Number((plan.meanLoadA * random.uniform(2.6, 3.6)).toFixed(1));
    sun.absorptionV = Number((mains.absorptionV + random.uniform(0.25, 0.4) * plan.blocks).toFixed(2));
    sun.tailA = undefined;
    sun.absorptionMinutes = 600;
    // Local noon of the site in UTC, and three hours either side.
    const noon = 12 - plan.climate.longitude / 15;
    const hours = random.uniform(2.5, 3.5);
    mains.present = (ms) => Math.abs((ms % DAY) / HOUR - noon) < hours;
    mains.tailA = 0.03 * plan.capacityAh;
    mains.logged = sun.logged = true;
    plan.logsMonitor = true;
    plan.startCharge = random.uniform(0.5, 0.8);
    plan.climate.clear = 0.8;
  },
  hurts: neverFull,
};
