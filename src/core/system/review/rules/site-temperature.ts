/** Does the charge voltage still fit when the battery is at its coldest and its warmest? */

import { expectedVolts } from '../../chemistry';
import { volts } from '../../../quantity/text';
import { basics, heldAt } from '../subject';
import type { Note } from '../rule';
import type { Rule } from '../rule';

export const siteTemperature: Rule = {
  code: 'site-temperature',
  says: 'charge voltage at the site’s coldest and warmest',
  on: 'source',
  review(s, source) {
    if (!s.lead()) return null;
    const set = source.profile('absorptionV');
    const told = source.profile('compensationMvPerCellPerC');
    // A setting that is wrong at 25 °C, or not compensated at all, is the matter of other rules.
    const at25 = s.chargeVolts();
    const edge = 0.05 * s.blocks();
    if (told === 0 || set < at25.min - edge || set > at25.max + edge) return null;
    const bank = {
      ...basics(s),
      ...s.system.bank,
      chemistry: s.chemistry(),
      cellsInSeries: s.cells(),
      chargeVolts: at25,
    };
    const notes: Note[] = [];
    for (const [when, celsius] of [
      ['coldest', s.site('coldestC')],
      ['warmest', s.site('warmestC')],
    ] as const) {
      const held = heldAt(s, source, set, celsius);
      const wanted = expectedVolts(bank, 'absorption', celsius);
      const off = held < wanted.min - edge ? 'below' : held > wanted.max + edge ? 'above' : null;
      if (off)
        notes.push({
          weight: 'caution',
          setting: 'profile.compensationMvPerCellPerC',
          text: `At its ${when}, ${celsius} °C, ${source.name} holds ${volts(held)}; the battery asks for ${volts(wanted.min)} to ${volts(wanted.max)} there.`,
          why: `A compensation of ${told} mV per °C per cell leaves it ${off} the range at that temperature.`,
          fix: 'Set the compensation that the battery’s sheet gives.',
          advise: true,
        });
    }
    return notes;
  },
};
