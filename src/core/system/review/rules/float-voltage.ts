/** Is the float voltage fit for the chemistry? */

import { volts } from '../../../quantity/text';
import type { Rule } from '../rule';

export const floatVoltage: Rule = {
  code: 'float-voltage',
  says: 'float against the chemistry',
  on: 'source',
  review(s, source) {
    const set = source.profile('floatV');
    const { min, max } = s.floatVolts();
    const edge = 0.07 * s.blocks();
    const absorption = source.raw.profile.absorptionV;
    if (s.lead() && absorption !== undefined && set > absorption)
      return {
        weight: 'fault',
        setting: 'profile.floatV',
        text: `${source.name} floats at ${volts(set)}, above its absorption of ${volts(absorption)}.`,
        why: 'Float is what a full battery is kept at: it lies below absorption.',
        fix: 'Set a float within the battery’s range.',
        advise: true,
      };
    if (!s.lead()) {
      if (set <= max + edge) return null;
      if (s.schools.lithiumFloat === 'equal' && absorption !== undefined && set <= absorption) return null;
      return {
        weight: 'caution',
        setting: 'profile.floatV',
        text: `${source.name} floats at ${volts(set)}; lithium is kept at ${volts(max)} at most.`,
        why: 'Lithium wants no trickle: held near its charge voltage it keeps creeping up and ages.',
        fix: 'Lower the float, or switch it off where no load has to be carried.',
        advise: true,
      };
    }
    if (set >= min - edge && set <= max + edge) return null;
    return {
      weight: 'fault',
      setting: 'profile.floatV',
      text: `${source.name} floats at ${volts(set)}; the battery asks for ${volts(min)} to ${volts(max)} at 25 °C.`,
      why:
        set < min
          ? 'Below its range a battery that is kept on float slowly runs down and sulphates.'
          : 'Above its range it gasses day and night, loses water or dries out.',
      fix: 'Set a float within the range.',
      advise: true,
    };
  },
};
