/** Loads keep the charger from seeing its tail. */

import { type Fault, isHeld, minutesIn } from './fault';

export const loadThroughAbsorption: Fault = {
  code: 'load-through-absorption',
  fits: ({ chargers }) => chargers.length === 1 && chargers[0]!.kind !== 'solar',
  patch(plan, random) {
    const one = plan.chargers[0]!;
    plan.meanLoadA = plan.capacityAh * random.uniform(0.04, 0.07);
    one.ratedA = one.givesA = Number((plan.capacityAh * random.uniform(0.2, 0.3)).toFixed(1));
    one.tailA = 0.02 * plan.capacityAh;
    one.absorptionMinutes = random.pick([600, 720]);
    plan.logsMonitor = true;
    one.logged = true;
  },
  // Where the battery never gets to its tail, or the charger ends in time, the loads hide nothing.
  hurts({ truth, plan }) {
    const { id, tailA } = plan.chargers[0]!;
    const battery = truth.series.channels.battery_current!;
    const own = truth.of[id]!.source_current!;
    const hidden = (i: number) =>
      isHeld(truth, id, 'absorption', i) && battery[i]! < 0.01 * plan.capacityAh && own[i]! > tailA!;
    return minutesIn(truth, hidden) > 120 * plan.days;
  },
};
