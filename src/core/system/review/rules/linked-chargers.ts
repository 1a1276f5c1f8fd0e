/** Of chargers that are linked to each other, does exactly one lead? */

import type { Rule } from '../rule';

export const linkedChargers: Rule = {
  code: 'linked-chargers',
  says: 'linked chargers: which one leads',
  on: 'bank',
  review(s) {
    const linked = s.sources.filter((one) => one.raw.link !== undefined);
    if (linked.length === 0) return null;
    const leading = linked.filter((one) => one.raw.link === 'leads').map((one) => one.name);
    if (leading.length === 1) return null;
    return leading.length > 1
      ? {
          weight: 'fault',
          text: `${leading.join(' and ')} both lead.`,
          why: 'Each tells the others its own stage: one goes to float while another still absorbs, and the charge ends where the quickest wants it.',
          fix: 'Let one lead, the one that senses the battery best, and all others follow.',
        }
      : {
          weight: 'fault',
          text: `${linked.map((one) => one.name).join(' and ')} ${linked.length === 1 ? 'follows' : 'all follow'}, and none leads.`,
          why: 'A follower waits for a stage that nobody gives out: it charges by chance, or not at all.',
          fix: 'Let one of them lead.',
        };
  },
};
