/** Is the equalisation that the maker asks for set, and was it done? */

import { DAY } from '../../../quantity/span';
import { volts } from '../../../quantity/text';
import type { Note } from '../rule';
import type { Rule } from '../rule';

export const equaliseSchedule: Rule = {
  code: 'equalise-schedule',
  says: 'equalisation against the battery’s schedule',
  on: 'bank',
  review(s) {
    const asked = s.system.bank.equalise;
    if (!asked) return null;
    const notes: Note[] = [];
    const able = s.sources.filter((one) => one.raw.profile.equalise);
    const best = able.length > 0 ? Math.max(...able.map((one) => one.raw.profile.equalise!.volts)) : null;
    // By hand only is a schedule too.
    if (best === null && !asked.byHand)
      notes.push({
        weight: 'caution',
        text: `The battery’s sheet asks for ${volts(asked.volts)} for ${asked.minutes} min every ${asked.everyDays} days; no source is set to equalise.`,
        why: 'Without it the cells of a flooded battery drift apart and sulphate.',
        fix: 'Set the schedule in one charger, or plan it by hand. Read the maker’s sheet and see to ventilation first.',
      });
    const today = s.job?.openedAt;
    if (asked.lastOn && today) {
      const days = Math.floor((Date.parse(today) - Date.parse(asked.lastOn)) / DAY);
      if (days > 1.2 * asked.everyDays)
        notes.push({
          weight: 'caution',
          setting: 'equalise.lastOn',
          text: `Last equalised ${days} days before this job; it is due every ${asked.everyDays} days.`,
          why: 'Overdue, cells drift apart: one falls behind at each charge.',
          fix: 'Make a hydrometer round, then equalise, with ventilation and the maker’s sheet at hand.',
        });
    }
    return notes;
  },
};
