/** Is the charge current so small that a full charge does not fit in the hours available? */

import { HOUR } from '../../../quantity/span';
import { amps, duration, percent } from '../../../quantity/text';
import { chargeTime } from '../../chargeTime';
import { chargingAmps } from '../advice';
import { chargingSources } from '../subject';
import type { Rule } from '../rule';

export const chargerSmall: Rule = {
  code: 'charger-small',
  says: 'charger ampere against capacity',
  on: 'bank',
  review(s) {
    const capacity = s.bank('capacityAh');
    const sources = chargingSources(s);
    if (sources.length === 0) return null;
    const hours = Math.max(...sources.map((one) => one.ask('hoursPerDay')));
    const current = chargingAmps(s);
    const tail = s.lead() ? 0.02 * capacity : null;
    const { bulkHours, absorptionHours } = chargeTime(
      capacity,
      current,
      s.lead() ? 50 : 10,
      s.lead() ? 0.85 : 0.98,
      tail,
    );
    const share = (100 * current) / capacity;
    // A small source that keeps a shallow cycle full is fine: it must be small for the bank and short of hours besides.
    if (share >= (s.lead() ? 5 : 3) || bulkHours + absorptionHours <= hours) return null;
    return {
      weight: 'remark',
      text: `With ${amps(current)} (${percent(share)} of capacity) a full charge from the floor takes about ${duration((bulkHours + absorptionHours) * HOUR)}; there are ${hours} h a day.`,
      why: 'After a deep discharge several days pass before the battery is full again; until then a lead battery sulphates.',
      fix: 'Plan a long charge after each deep discharge, or a stronger source.',
    };
  },
};
