/** Is the floor kind to the battery? */

import { percent } from '../../../quantity/text';
import type { Rule } from '../rule';

export const floorRule: Rule = {
  code: 'floor',
  says: 'discharge floor against the chemistry',
  on: 'monitor',
  review(s) {
    const set = s.monitor('floorPercent');
    const kind = s.lead() ? 50 : 10;
    if (set >= (s.lead() ? 40 : 5)) return null;
    return {
      weight: s.lead() && set < 25 ? 'caution' : 'remark',
      setting: 'floorPercent',
      text: `The floor is ${percent(set)}; ${kind} % is usual for ${s.figures().name} batteries.`,
      why: s.lead()
        ? 'Below half, lead batteries lose many cycles of their life.'
        : 'Below it the BMS soon opens, and the load drops without warning.',
      fix: 'Raise the floor.',
      advise: true,
    };
  },
};
