/** Does the charger end absorption at a current that means full? */

import { ampHours, amps, percent } from '../../../quantity/text';
import type { Rule } from '../rule';

export const chargerTail: Rule = {
  code: 'charger-tail',
  says: 'tail of the charger against the bank',
  on: 'source',
  review(s, source) {
    const set = source.profile('tailA');
    const capacity = s.bank('capacityAh');
    const share = (100 * set) / capacity;
    const most = s.lead() ? 4 : 10;
    if (share > most + 0.2)
      return {
        weight: 'fault',
        setting: 'profile.tailA',
        text: `${source.name} ends absorption at ${amps(set)}, ${percent(share)} of ${ampHours(capacity)}.`,
        why: `At its charge voltage this battery still takes charge there: it counts as full at ${s.figures().fullTailPercent} %, ${most} % at the most.`,
        fix: 'Lower the current at which absorption ends.',
        advise: true,
      };
    const standing = s.loads
      .filter((one) => (one.raw.hoursPerDay ?? 0) >= 20)
      .reduce((total, one) => total + (one.raw.usualA ?? 0), 0);
    if (standing > set && s.sources.length === 1)
      return {
        weight: 'caution',
        setting: 'profile.tailA',
        text: `${source.name} waits for ${amps(set)}, but the standing loads draw ${amps(standing)} through it.`,
        why: 'The charger’s own current never falls below its loads, so that only the timer ends absorption.',
        fix: 'Keep the timer as the end, or give the charger the battery’s own current to judge by.',
      };
    return null;
  },
};
