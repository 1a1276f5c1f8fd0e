/** Does the charger’s equalisation do what the battery asks for? */

import { volts } from '../../../quantity/text';
import type { Note } from '../rule';
import type { Rule } from '../rule';

export const equaliseSettings: Rule = {
  code: 'equalise-settings',
  says: 'equalisation of a charger against what the battery asks for',
  on: 'source',
  review(s, source) {
    const set = source.raw.profile.equalise;
    const asked = s.system.bank.equalise;
    if (!set || !asked) return null;
    const notes: Note[] = [];
    const edge = 0.1 * s.blocks();
    if (Math.abs(set.volts - asked.volts) > edge)
      notes.push({
        weight: 'fault',
        setting: 'profile.equalise.volts',
        text: `${source.name} equalises at ${volts(set.volts)}; the battery’s sheet asks for ${volts(asked.volts)}.`,
        why:
          set.volts < asked.volts
            ? 'An attempt that never reaches the voltage is no equalisation.'
            : 'Higher than asked, it boils the battery.',
        fix: 'Set the voltage of the battery’s sheet.',
        advise: true,
        ...(set.volts > asked.volts + 0.3 * s.blocks() ? { hazard: 'over-voltage' as const } : {}),
      });
    if (set.minutes < 0.8 * asked.minutes)
      notes.push({
        weight: 'caution',
        setting: 'profile.equalise.minutes',
        text: `${source.name} holds it for ${set.minutes} min; ${asked.minutes} min are asked for.`,
        why: 'Only time held at the voltage counts.',
        fix: 'Lengthen the time held.',
        advise: true,
      });
    if (set.everyDays > 1.5 * asked.everyDays)
      notes.push({
        weight: 'caution',
        setting: 'profile.equalise.everyDays',
        text: `${source.name} equalises every ${set.everyDays} days; every ${asked.everyDays} days are asked for.`,
        why: 'Between two equalisations the cells drift apart.',
        fix: 'Shorten the interval.',
        advise: true,
      });
    if (set.retryDays === 0)
      notes.push({
        weight: 'remark',
        setting: 'profile.equalise.retryDays',
        text: `${source.name} does not try again when an equalisation fails.`,
        why: 'With a weak day it is put off by the whole interval. How long to retry is a matter of school.',
        fix: 'Allow at least one day of retry.',
        advise: true,
      });
    return notes;
  },
};
