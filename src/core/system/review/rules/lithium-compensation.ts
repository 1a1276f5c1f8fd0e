/** Is lithium charged with temperature compensation? */

import { volts } from '../../../quantity/text';
import { heldAt } from '../subject';
import type { Rule } from '../rule';

export const lithiumCompensation: Rule = {
  code: 'lithium-compensation',
  says: 'temperature compensation on lithium',
  on: 'source',
  review(s, source) {
    if (s.lead()) return null;
    const set = source.profile('compensationMvPerCellPerC');
    if (set === 0) return null;
    const at = s.system.site?.coldestC ?? 0;
    const volt = source.raw.profile.absorptionV;
    return {
      weight: 'fault',
      setting: 'profile.compensationMvPerCellPerC',
      text:
        volt === undefined
          ? `${source.name} compensates by ${set} mV per °C per cell.`
          : `${source.name} compensates by ${set} mV per °C per cell: at ${at} °C it holds ${volts(heldAt(s, source, volt, at))} instead of ${volts(volt)}.`,
      why: 'The voltage of lithium does not move with temperature: compensation overcharges it when cold and undercharges it when warm.',
      fix: 'Switch temperature compensation off.',
      advise: true,
    };
  },
};
