/** Does the charger begin anew early enough, and not at every breath? */

import { percent, volts } from '../../../quantity/text';
import { restPercent } from '../../restVoltage';
import type { Rule } from '../rule';

export const rebulkGap: Rule = {
  code: 'rebulk-gap',
  says: 'the re-bulk voltage',
  on: 'source',
  review(s, source) {
    const set = source.profile('rebulkV');
    const kept = source.raw.profile.floatV ?? source.profile('absorptionV');
    const perBlock = set / s.blocks();
    if (set > kept - 0.15 * s.blocks())
      return {
        weight: 'caution',
        setting: 'profile.rebulkV',
        text: `${source.name} re-bulks below ${volts(set)}, only ${volts(kept - set)} under what it keeps (${volts(kept)}).`,
        why: 'Each load step starts a new charge: the battery is boiled at absorption many times a day.',
        fix: 'Lower the re-bulk voltage.',
        advise: true,
      };
    if (perBlock < (s.lead() ? 12.1 : 12.85))
      return {
        weight: 'caution',
        setting: 'profile.rebulkV',
        text: `${source.name} re-bulks only below ${volts(set)}, about ${percent(restPercent(s.chemistry(), perBlock))} charge.`,
        why: 'Until then the battery is left part empty, although the source is there.',
        fix: 'Raise the re-bulk voltage.',
        advise: true,
      };
    return null;
  },
};
