/** Is lithium kept from being charged below freezing? */

import type { Rule } from '../rule';

export const coldLimits: Rule = {
  code: 'cold-limits',
  says: 'who stops the charge of lithium in the cold',
  on: 'source',
  review(s, source) {
    if (s.lead()) return null;
    const coldest = s.site('coldestC');
    if (coldest > 2) return null;
    const limits = [source.raw.profile.chargeAboveC, s.system.bms?.chargeAboveC].filter(
      (one) => one !== undefined,
    );
    const limit = limits.length > 0 ? Math.max(...limits) : null;
    const least = s.system.bank.chargeAboveC ?? 0;
    if (limit === null || limit < least)
      return {
        weight: 'fault',
        setting: 'profile.chargeAboveC',
        text:
          limit === null
            ? `The battery gets as cold as ${coldest} °C, and neither ${source.name} nor a BMS is known to stop the charge below ${least} °C.`
            : `The battery gets as cold as ${coldest} °C; charging is stopped only below ${limit} °C, the battery may be charged above ${least} °C.`,
        why: 'Lithium charged below freezing is damaged for good, and may become dangerous later.',
        fix: 'Set the limit in the charger, or see to it that the BMS has one.',
        advise: true,
        hazard: 'lithium-charged-below-freezing',
      };
    if (coldest < limit)
      return {
        weight: 'remark',
        text: `The battery gets as cold as ${coldest} °C; below ${limit} °C charging is refused.`,
        why: 'On such mornings the source is there and nothing goes in: the reserve must last until it is warmer.',
        fix: 'Insulate or heat the battery, or count those hours out.',
      };
    return null;
  },
};
