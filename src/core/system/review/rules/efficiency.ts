/** Does the charge efficiency fit the chemistry? */

import type { Rule } from '../rule';

export const efficiencyRule: Rule = {
  code: 'efficiency',
  says: 'charge efficiency against the chemistry',
  on: 'monitor',
  about: 'efficiencyPercent',
  review(s) {
    const set = s.monitor('efficiencyPercent');
    const [least, most] = s.lead() ? [72, 95] : [94, 100];
    if (set >= least && set <= most) return null;
    return {
      weight: 'caution',
      setting: 'efficiencyPercent',
      text: `The charge efficiency is ${set} %; ${s.figures().name} batteries show ${s.lead() ? '75 to 92' : '95 to 99'} %.`,
      why:
        set > most
          ? 'Set too high, what was lost in charging is counted as stored: the reading walks up.'
          : 'Set too low, what was stored is counted as lost: the reading walks down.',
      fix: 'Set an efficiency that fits the chemistry.',
      advise: true,
    };
  },
};
