/** Does the alarm come before the cut-off, and the cut-off before the BMS? */

import { volts } from '../../../quantity/text';
import type { Note } from '../rule';
import type { Rule } from '../rule';

export const cutoffOrder: Rule = {
  code: 'cutoff-order',
  says: 'alarm above cut-off above BMS',
  on: 'load',
  review(s, load) {
    const cutoff = load.ask('cutoffV');
    const { alarmV } = load.raw;
    const notes: Note[] = [];
    if (alarmV !== undefined && alarmV <= cutoff)
      notes.push({
        weight: 'fault',
        setting: 'alarmV',
        text: `The alarm of ${load.name} (${volts(alarmV)}) is not above its cut-off (${volts(cutoff)}).`,
        why: 'Nobody is warned before the load drops.',
        fix: 'Raise the alarm above the cut-off.',
        advise: true,
      });
    const low = s.system.bms?.cellLowV;
    if (low !== undefined) {
      const opens = low * s.cells();
      if (cutoff <= opens)
        notes.push({
          weight: 'fault',
          setting: 'cutoffV',
          text: `${load.name} cuts off at ${volts(cutoff)}; the BMS opens at ${volts(low)} per cell, ${volts(opens)} for the pack, at the latest.`,
          why: 'The BMS is the last protection, not the switch: when it opens, everything goes dark at once, and a charger may not be seen again.',
          fix: 'Raise the cut-off above the BMS’s limit.',
          advise: true,
        });
    }
    return notes;
  },
};
