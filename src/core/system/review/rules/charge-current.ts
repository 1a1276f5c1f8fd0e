/** Can the sources together give more than the battery may take? */

import { amps } from '../../../quantity/text';
import { chargingSources } from '../subject';
import type { Rule } from '../rule';

export const chargeCurrent: Rule = {
  code: 'charge-current',
  says: 'charger ampere against the greatest that the battery may take',
  on: 'bank',
  review(s) {
    const most = Math.min(s.system.bank.maxChargeA ?? Infinity, s.system.bms?.maxChargeA ?? Infinity);
    const limit = most === Infinity ? s.bank('maxChargeA') : most;
    const sources = chargingSources(s);
    const together = sources.reduce((total, one) => total + one.ask('ratedA'), 0);
    if (together <= 1.05 * limit) return null;
    const strongest = Math.max(...sources.map((one) => one.ask('ratedA')));
    return {
      weight: strongest > 1.05 * limit ? 'fault' : 'caution',
      setting: 'maxChargeA',
      text: `${sources.map((one) => one.name).join(' and ')} can give ${amps(together)}; the battery may take ${amps(limit)}.`,
      why: 'Charged faster than its sheet allows, a battery heats and gasses, or its BMS opens.',
      fix: 'Limit the charge current in the charger’s settings.',
    };
  },
};
