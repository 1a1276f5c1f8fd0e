/** Cold nights: less capacity, more resistance. By day all is well. */

import { median } from '../../quantity/numbers';
import { chargeAt, cutsOf, cutting, heavy, comeAgain, usualCutoff } from './cutting';
import type { Fault } from './fault';

export const coldBattery: Fault = {
  code: 'cold-battery',
  complaint: 'premature-cutoff',
  also: ['cold-charge-block'],
  // A run that is cut off within a minute shows only where the log is as fast.
  fits: ({ halves, everySeconds }) => halves === null && everySeconds <= 60,
  patch(plan, random) {
    plan.climate.meanC = random.uniform(-4, 3);
    plan.climate.dailyC = random.uniform(6, 10);
    plan.logsTemperature = true;
    // A good battery, but for the cold.
    plan.resistance = random.uniform(0.9, 1.5);
    cutting(plan, random, {
      ...usualCutoff(plan, random),
      cutoffSeconds: random.pick([20, 60, 90]),
      heavy: heavy(plan, random, 0.25, 0.5),
    });
  },
  hurts(outcome) {
    const cuts = cutsOf(outcome, 'load', 'volts');
    // A battery that is empty as well is another case.
    if (!comeAgain(cuts) || median(chargeAt(outcome, cuts)) < 25) return false;
    const { time, channels } = outcome.truth.series;
    const celsius = channels.battery_temperature!;
    const step = time[1]! - time[0]!;
    const at = cuts.map((one) => celsius[Math.round((one.at - time[0]!) / step)]!);
    return median(at) < 4 && celsius.reduce((a, b) => Math.max(a, b), -99) > median(at) + 4;
  },
};
