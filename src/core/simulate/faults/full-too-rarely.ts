/** Weeks without a full charge: nothing is wrong with the counting, but its small errors have had too long to grow. */

import { DAY, HOUR } from '../../quantity/span';
import { fullDays, logReading, readingOff, syncsOf, type Fault } from './fault';

export const fullTooRarely: Fault = {
  code: 'full-too-rarely',
  complaint: 'drifting-soc',
  also: ['source-too-small', 'never-started'],
  fits: ({ halves, chargers, everySeconds }) =>
    halves === null && chargers.length === 1 && everySeconds >= 60,
  patch(plan, random) {
    logReading(plan);
    plan.days = Math.round(random.uniform(24, 40));
    const one = plan.chargers[0]!;
    plan.meanLoadA = (plan.capacityAh * random.uniform(0.25, 0.35)) / 24;
    plan.startCharge = random.uniform(0.55, 0.7);
    one.kind = 'mains';
    const start = random.uniform(0, 24);
    const hours = random.uniform(5, 8);
    one.present = (ms) => ((ms % DAY) / HOUR + 24 - start) % 24 < hours;
    // As much as is drawn, and no more.
    one.ratedA = one.givesA = Number(((random.uniform(1.0, 1.08) * 24 * plan.meanLoadA) / hours).toFixed(1));
    plan.monitor.startReading = 100 * plan.startCharge;
  },
  hurts: (outcome) =>
    syncsOf(outcome.truth).length === 0 && fullDays(outcome) === 0 && readingOff(outcome) > 6,
};
