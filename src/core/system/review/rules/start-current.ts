/** May the BMS carry the largest start on top of what runs? */

import { amps } from '../../../quantity/text';
import type { Rule } from '../rule';

export const startCurrent: Rule = {
  code: 'start-current',
  says: 'the current of a start against what the BMS lets through',
  on: 'load',
  review(s, load) {
    const limit = s.system.bms?.maxDischargeA;
    const surge = load.raw.startA;
    if (limit === undefined || surge === undefined) return null;
    const running = s.loads
      .filter((one) => one.id !== load.id)
      .reduce((sum, one) => sum + (one.raw.usualA ?? 0), 0);
    const together = running + surge;
    if (together <= 0.9 * limit) return null;
    return {
      weight: together > limit ? 'fault' : 'caution',
      setting: 'startA',
      text: `${load.name} starts with ${amps(surge)}${running > 0 ? `, on top of ${amps(running)} of other loads` : ''}; the BMS lets ${amps(limit)} through.`,
      why: 'A start above the limit switches the whole battery off, and everything on it with it. Some BMS allow more for a moment: the maker’s sheet says for how long.',
      fix: 'Start it while other loads are off, fit a soft start, or a battery whose BMS carries it.',
    };
  },
};
