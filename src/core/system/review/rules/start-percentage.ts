/** Does the monitor claim a full battery after a restart? */

import { percent } from '../../../quantity/text';
import type { Rule } from '../rule';

export const startPercentage: Rule = {
  code: 'start-percentage',
  says: 'what the monitor shows after it lost its supply',
  on: 'monitor',
  about: 'startPercent',
  review(s) {
    const set = s.system.monitor?.startPercent;
    if (set === undefined || set < 90) return null;
    return {
      weight: 'remark',
      setting: 'startPercent',
      text: `After a loss of supply the monitor starts at ${percent(set)}.`,
      why: s.lead()
        ? 'It then claims a full battery without any reason, until the next full charge.'
        : 'A new lithium battery comes at about 30 %, and a restart says nothing of the charge.',
      fix: 'Do not believe the reading after a restart until the next full charge; set a low start where it can be set.',
    };
  },
};
