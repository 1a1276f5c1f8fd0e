/** Can the sources put back in their hours what the loads draw in a day? */

import { ampHours } from '../../../quantity/text';
import { chargingSources, halfOf, type Subject } from '../subject';
import type { Rule } from '../rule';

export const chargeHours: Rule = {
  code: 'charge-hours',
  says: 'whether the sources can finish in the hours available',
  on: 'bank',
  review(s) {
    const daily = (of: Subject) =>
      chargingSources(of).reduce((total, one) => total + one.ask('ratedA') * one.ask('hoursPerDay'), 0);
    // What the halves get is in series: the lesser of the two counts.
    const given = daily(s) + Math.min(daily(halfOf(s, 'lower')), daily(halfOf(s, 'upper')));
    if (s.loads.length === 0) return null;
    const drawn = s.loads.reduce((total, one) => total + one.ask('usualA') * one.ask('hoursPerDay'), 0);
    const needed = drawn * s.figures().returnFactor.max;
    if (given >= needed) return null;
    return {
      weight: given < drawn ? 'fault' : 'caution',
      text: `The sources can give about ${ampHours(given)} a day; the loads draw ${ampHours(drawn)}, which takes ${ampHours(needed)} with the losses of charging.`,
      why: 'What is not put back is missing the next day: the battery walks down whatever its settings are.',
      fix: 'More hours or amperes of charge, or smaller loads.',
    };
  },
};
