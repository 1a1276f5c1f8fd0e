/** Flooded cells that are due: attempts that never reach the voltage, or none. */

import { DAY } from '../../quantity/span';
import { type Fault, minutesIn } from './fault';

export const equalisationOverdue: Fault = {
  code: 'equalisation-overdue',
  fits: ({ chemistry, chargeEveryDays }) => chemistry === 'flooded' && chargeEveryDays === 1,
  patch(plan, random) {
    const volts = 15.5 * plan.blocks;
    plan.bankEqualise = { volts, minutes: 60, everyDays: 30, lastOn: '2025-11-20' };
    if (random.next() < 0.6)
      for (const one of plan.chargers) {
        one.equalise = { volts, minutes: 120, dueAt: [1, 2, 3].map((k) => plan.from + k * 3 * DAY) };
        one.givesA = one.ratedA = Math.min(one.givesA, 0.05 * plan.capacityAh + 1.5 * plan.meanLoadA);
      }
  },
  // Whoever holds the voltage: held for its time it is no longer overdue. A source too small for the site would be a fault of its own.
  hurts: ({ truth, plan, bestDaily }) => {
    const volts = truth.series.channels.battery_voltage!;
    const celsius = truth.series.channels.battery_temperature;
    const least = (plan.bankEqualise!.volts / plan.blocks - 0.1) * plan.blocks;
    const at25 = (i: number) =>
      volts[i]! - ((plan.chargers[0]!.compensationMv * plan.cells) / 1000) * ((celsius?.[i] ?? 25) - 25);
    return bestDaily > 90 && minutesIn(truth, (i) => at25(i) >= least) < 45;
  },
};
