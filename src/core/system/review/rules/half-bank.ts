/** Does a charger or the monitor serve one half of the bank only? */

import type { Note } from '../rule';
import type { Rule } from '../rule';

export const halfBank: Rule = {
  code: 'half-bank',
  says: 'a charger or monitor on half of the bank',
  on: 'bank',
  review(s) {
    const halves = s.sources.filter((one) => one.raw.across === 'lower' || one.raw.across === 'upper');
    const sees = s.system.monitor?.sees ?? 'bank';
    const between = s.system.monitor?.sits === 'between-halves';
    if (halves.length === 0 && sees === 'bank' && !between) return null;
    const notes: Note[] = [];
    if (between && halves.length > 1)
      notes.push({
        weight: 'caution',
        text: 'The shunt sits between the halves.',
        why: 'Both charge loops pass it and are added: while both halves charge it counts up to twice what the bank gets. It does not see which half lags.',
        fix: 'Find its charge efficiency by a full cycle, and measure each half at every visit.',
      });
    if (between && halves.length === 0)
      notes.push({
        weight: 'remark',
        text: 'The shunt sits between the halves, and every charger charges the whole bank.',
        why: 'It works there as it would in the negative, but its voltage lead then spans one half unless it is led to the far post.',
        fix: 'See that its voltage lead goes to the battery positive of the whole bank.',
      });
    const lower = halves.some((one) => one.raw.across === 'lower');
    const upper = halves.some((one) => one.raw.across === 'upper');
    if (lower !== upper)
      notes.push({
        weight: 'fault',
        text: `${halves.map((one) => one.name).join(' and ')} charges only the ${lower ? 'lower' : 'upper'} half of the bank.`,
        why: 'The halves drift apart: one is overcharged, the other is never full.',
        fix: 'Charge the bank as a whole, or give each half a charger of its own.',
      });
    if (sees !== 'bank')
      notes.push({
        weight: 'caution',
        text: `The monitor sees the ${sees} half only.`,
        why: 'Its reading stands for both halves only while they agree, within about 0.1 V.',
        fix: 'Measure each half at every visit; after a partial charge of one half, charge both fully and synchronise by hand.',
      });
    return notes;
  },
};
