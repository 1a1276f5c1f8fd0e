/** A lead exponent on a lithium battery that feeds large loads for minutes at a time. */

import { isLead } from '../../system/chemistry';
import { pulsed } from '../sitePlan';
import { logReading, readingOff, type Fault } from './fault';

export const peukertWrong: Fault = {
  code: 'peukert-wrong',
  complaint: 'drifting-soc',
  fits: ({ halves, chemistry }) => halves === null && !isLead(chemistry),
  patch(plan, random) {
    logReading(plan);
    plan.monitor.settings.peukert = random.uniform(1.25, 1.4);
    plan.meanLoadA = (plan.capacityAh * random.uniform(0.35, 0.5)) / 24;
    // Fridges, kettles and pumps: nearly all of it in a tenth of the time.
    const share = random.uniform(0.06, 0.12);
    const every = random.pick([1800, 3600, 7200]) * 1000;
    plan.loadShape = (ms) => 0.15 + 0.85 * pulsed(ms, every, share);
  },
  hurts: (outcome) => readingOff(outcome) > 8,
};
