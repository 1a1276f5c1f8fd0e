/** Is the monitor set to the bank’s capacity? */

import { ampHours } from '../../../quantity/text';
import type { Rule } from '../rule';

export const monitorCapacity: Rule = {
  code: 'monitor-capacity',
  says: 'capacity set against the bank',
  on: 'monitor',
  about: 'capacityAh',
  review(s) {
    const set = s.monitor('capacityAh');
    const bank = s.countedCapacity();
    const off = set / bank - 1;
    // A measured capacity below the label is a better figure than the label: only far below is it doubted.
    if (off <= 0.06 && off >= -0.3) return null;
    const hours = s.system.bank.capacityHours ?? 20;
    return {
      weight: Math.abs(off) > 0.15 ? 'fault' : 'caution',
      setting: 'capacityAh',
      text: `The monitor is set to ${ampHours(set)}; the bank has ${ampHours(bank)}${s.lead() && hours !== 20 ? ` at 20 h (${ampHours(s.bank('capacityAh'))} at ${hours} h)` : ''}.`,
      why:
        off > 0
          ? 'Set too large, the reading stays too high as the battery empties: the alarm sounds at a good percentage.'
          : 'Set too small, the reading falls too fast.',
      fix: 'Set the capacity of the bank, or the measured one.',
      advise: true,
    };
  },
};
