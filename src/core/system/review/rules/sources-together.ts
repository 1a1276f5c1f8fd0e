/** Does one source hold the bus so high that another believes the battery full? */

import { volts } from '../../../quantity/text';
import { chargingSources } from '../subject';
import type { Note } from '../rule';
import type { Rule } from '../rule';

export const sourcesTogether: Rule = {
  code: 'sources-together',
  says: 'several sources: whose setpoints shut the others up',
  on: 'bank',
  review(s) {
    const sources = chargingSources(s);
    const notes: Note[] = [];
    const edge = 0.1 * s.blocks();
    for (const one of sources)
      for (const other of sources) {
        if (one === other) continue;
        const high = one.profile('absorptionV');
        const low = other.profile('absorptionV');
        const kept = one.raw.profile.floatV;
        if (kept !== undefined && kept >= low)
          notes.push({
            weight: 'fault',
            text: `${one.name} floats at ${volts(kept)}, at or above the absorption of ${other.name} (${volts(low)}): ${other.name} never gives anything while it runs.`,
            why: 'A charger that sees the bus above its own target believes the battery full and stops.',
            fix: `Give both the same absorption voltage, and ${one.name} a float below it.`,
          });
        else if (high > low + edge)
          notes.push({
            weight: 'caution',
            text: `${one.name} absorbs at ${volts(high)}, ${other.name} at ${volts(low)}: ${other.name} goes to float or off while ${one.name} still charges.`,
            why: 'One lifts the voltage, the other believes the battery is full and stops, with almost no current of its own.',
            fix: 'Give both the same absorption voltage and time.',
          });
        else if (
          kept !== undefined &&
          other.raw.profile.floatV !== undefined &&
          kept > other.raw.profile.floatV + edge &&
          Math.abs(high - low) <= edge
        )
          notes.push({
            weight: 'remark',
            text: `${one.name} floats at ${volts(kept)}, ${other.name} at ${volts(other.raw.profile.floatV)}: on float ${one.name} carries all loads.`,
            why: 'The higher float carries; the other shows almost no current and looks idle in its log.',
            fix: 'Set both floats alike where both should share.',
          });
      }
    return notes;
  },
};
