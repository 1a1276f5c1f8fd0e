/** Is the absorption timer long enough for the current to fall to the tail? */

import { HOUR } from '../../../quantity/span';
import { ampHours, amps, duration } from '../../../quantity/text';
import { absorptionHours } from '../../chargeTime';
import { chargingAmps } from '../advice';
import type { Rule } from '../rule';

export const absorptionTime: Rule = {
  code: 'absorption-time',
  says: 'absorption time against capacity and current',
  on: 'source',
  review(s, source) {
    const set = source.profile('absorptionMinutes');
    if (!s.lead()) {
      if (set <= 180) return null;
      return {
        weight: 'caution',
        setting: 'profile.absorptionMinutes',
        text: `${source.name} holds absorption for ${set} min; lithium needs none for its capacity, and an hour or two for balancing.`,
        why: 'Held at the charge voltage, lithium ages and gains nothing.',
        fix: 'Shorten absorption.',
        advise: true,
      };
    }
    const capacity = s.bank('capacityAh');
    const current = chargingAmps(s);
    const least = absorptionHours(capacity, current, 0.04 * capacity);
    const full = absorptionHours(capacity, current, 0.02 * capacity);
    if (set >= least.min * 60) return null;
    return {
      weight: 'fault',
      setting: 'profile.absorptionMinutes',
      text: `${source.name} ends absorption after ${set} min; from ${amps(current)} the current of ${ampHours(capacity)} needs about ${duration(full.min * HOUR)} to ${duration(full.max * HOUR)} to fall to 2 %, and ${duration(least.min * HOUR)} at least to fall to 4 %.`,
      why: 'Bulk leaves a lead battery at 80 to 85 %; absorption does the rest. Ended by the clock, it is never full, every day the same.',
      fix: 'Lengthen absorption, and let the tail end it where the charger can.',
      advise: true,
    };
  },
};
