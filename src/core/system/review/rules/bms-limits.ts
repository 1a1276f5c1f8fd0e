/** Does the charger reach its target before the BMS opens? */

import { volts } from '../../../quantity/text';
import type { Rule } from '../rule';

export const bmsLimits: Rule = {
  code: 'bms-limits',
  says: 'BMS limits times cells against the charger',
  on: 'source',
  review(s, source) {
    if (s.lead()) return null;
    const limit = s.bms('cellHighV');
    const perCell = source.profile('absorptionV') / s.cells();
    if (perCell <= limit - 0.04) return null;
    return {
      weight: perCell >= limit ? 'fault' : 'caution',
      setting: 'profile.absorptionV',
      text: `${source.name} charges to ${volts(perCell)} per cell; the BMS opens at ${volts(limit)}.`,
      why: 'Cells are never quite alike: the first one meets the limit before the pack meets its target, and the BMS stops the charge.',
      fix: 'Lower the charge voltage, clear of the limit.',
      advise: true,
    };
  },
};
