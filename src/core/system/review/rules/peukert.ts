/** Does the Peukert exponent fit the chemistry? */

import type { Rule } from '../rule';

export const peukertRule: Rule = {
  code: 'peukert',
  says: 'Peukert exponent against the chemistry',
  on: 'monitor',
  about: 'peukert',
  review(s) {
    const set = s.monitor('peukert');
    const [least, most] = s.lead() ? [1.08, 1.4] : [1, 1.12];
    if (set >= least && set <= most) return null;
    return {
      weight: 'caution',
      setting: 'peukert',
      text: `The Peukert exponent is ${set}; ${s.figures().name} batteries show ${s.lead() ? '1.1 to 1.3' : '1.0 to 1.1'}.`,
      why: s.lead()
        ? 'Outside, large loads are counted as too much or too little; small ones are not.'
        : 'Lead’s exponent on lithium makes each large load count for more than it takes: the reading falls too fast.',
      fix: 'Set the exponent of the chemistry.',
      advise: true,
    };
  },
};
