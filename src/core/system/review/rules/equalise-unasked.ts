/** Is an equalisation set that the battery must not have? */

import { volts } from '../../../quantity/text';
import type { Rule } from '../rule';

export const equaliseUnasked: Rule = {
  code: 'equalise-unasked',
  says: 'equalisation on a battery that must not be equalised',
  on: 'source',
  review(s, source) {
    const set = source.raw.profile.equalise;
    if (!set || s.system.bank.equalise || s.chemistry() === 'flooded') return null;
    return {
      weight: 'fault',
      setting: 'profile.equalise.volts',
      text: `${source.name} equalises at ${volts(set.volts)} for ${set.minutes} min every ${set.everyDays} days; this ${s.figures().name} battery has no equalisation in its sheet.`,
      why: s.lead()
        ? 'Sealed batteries cannot be given back the water that equalisation drives out.'
        : 'It drives lithium cells past their limit: the BMS opens, or the cells are damaged.',
      fix: 'Switch equalisation off, unless the maker’s sheet asks for it.',
      advise: true,
      hazard: 'equalise-on-sealed-or-lithium',
    };
  },
};
