/** Does the load come back only when the battery has been charged? */

import { percent, volts } from '../../../quantity/text';
import type { Note } from '../rule';
import type { Rule } from '../rule';

export const reconnectGap: Rule = {
  code: 'reconnect-gap',
  says: 'the gap between cut-off and reconnection',
  on: 'load',
  review(s, load) {
    const notes: Note[] = [];
    const { cutoffV, reconnectV, cutoffPercent, reconnectPercent } = load.raw;
    const gap = (s.lead() ? 0.6 : 0.4) * s.blocks();
    if (cutoffV !== undefined && reconnectV !== undefined && reconnectV - cutoffV < gap - 0.005)
      notes.push({
        weight: reconnectV <= cutoffV ? 'fault' : 'caution',
        setting: 'reconnectV',
        text: `${load.name} comes back at ${volts(reconnectV)}, ${volts(reconnectV - cutoffV)} above its cut-off.`,
        why: 'Without its load the battery recovers by as much at once: the load chatters on and off until the battery is ruined.',
        fix: 'Widen the gap.',
        advise: true,
      });
    if (cutoffPercent !== undefined && reconnectPercent !== undefined && reconnectPercent < cutoffPercent + 5)
      notes.push({
        weight: 'caution',
        setting: 'reconnectPercent',
        text: `${load.name} comes back at ${percent(reconnectPercent)} and cuts off at ${percent(cutoffPercent)}.`,
        why: 'With so small a gap the load goes on and off.',
        fix: 'Widen the gap to 10 % or more.',
      });
    return notes;
  },
};
