/** Is the absorption voltage what the battery asks for at 25 °C? */

import { volts } from '../../../quantity/text';
import type { Rule } from '../rule';

export const chargeVoltage: Rule = {
  code: 'charge-voltage',
  says: 'charge voltage against the bank at 25 °C',
  on: 'source',
  review(s, source) {
    const set = source.profile('absorptionV');
    const { min, max } = s.chargeVolts();
    const edge = 0.05 * s.blocks();
    const asks = `the battery asks for ${volts(min)} to ${volts(max)} at 25 °C`;
    if (set < min - edge)
      return {
        weight: 'fault',
        setting: 'profile.absorptionV',
        text: `${source.name} is set to ${volts(set)}; ${asks}.`,
        why: s.lead()
          ? 'Below its charge voltage a lead battery never gets its last fifth, and sulphates.'
          : 'Below its charge voltage the battery stops short of full and its cells are never balanced.',
        fix: 'Raise the absorption voltage into the range.',
        advise: true,
      };
    if (set > max + edge)
      return {
        weight: 'fault',
        setting: 'profile.absorptionV',
        text: `${source.name} is set to ${volts(set)}; ${asks}.`,
        why: s.lead()
          ? 'Above its range a lead battery gasses, loses water or dries out, and grows hot.'
          : 'Above its range cells are driven past their limit and the BMS opens under charge.',
        fix: 'Lower the absorption voltage into the range.',
        advise: true,
        ...(set > max + 0.3 * s.blocks() ? { hazard: 'over-voltage' as const } : {}),
      };
    return null;
  },
};
