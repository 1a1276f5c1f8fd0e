/** Does the monitor wait long enough, and not too long? */

import type { Rule } from '../rule';

export const detectionTime: Rule = {
  code: 'detection-time',
  says: 'detection time by school',
  on: 'monitor',
  about: 'detectionMinutes',
  review(s) {
    const set = s.monitor('detectionMinutes');
    if (set < 2 && s.schools.sync === 'varying')
      return {
        weight: 'caution',
        setting: 'detectionMinutes',
        text: `The detection time is ${set} min, with a source that comes and goes.`,
        why: 'A passing cloud makes the current collapse for a minute or two: that is enough to be called full.',
        fix: 'Lengthen the detection time.',
        advise: true,
      };
    if (set > 15)
      return {
        weight: 'caution',
        setting: 'detectionMinutes',
        text: `The detection time is ${set} min.`,
        why: 'Load steps break the wait again and again: the monitor may never call the battery full.',
        fix: 'Shorten the detection time.',
        advise: true,
      };
    return null;
  },
};
