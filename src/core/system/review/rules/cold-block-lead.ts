/** Is a charge block against cold left on for a battery that does not need it? */

import type { Rule } from '../rule';

export const coldBlockLead: Rule = {
  code: 'cold-block-lead',
  says: 'a charge block against cold on lead',
  on: 'source',
  review(s, source) {
    if (!s.lead()) return null;
    const limit = source.raw.profile.chargeAboveC;
    // What the maker of this battery asks for is no mistake.
    if (limit === undefined || (s.system.bank.chargeAboveC ?? -Infinity) >= limit) return null;
    const coldest = s.site('coldestC');
    if (coldest >= limit) return null;
    return {
      weight: 'fault',
      setting: 'profile.chargeAboveC',
      text: `${source.name} gives nothing below ${limit} °C; the battery gets as cold as ${coldest} °C.`,
      why: 'Lead-acid may be charged in the cold, with compensation. The block is meant for lithium: on cold days this battery gets nothing, and a discharged one may freeze.',
      fix: 'Switch the block off, and see that the charger compensates for temperature.',
      advise: true,
    };
  },
};
