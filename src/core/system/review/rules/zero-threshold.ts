/** Does the zero threshold hide what must be counted? */

import { ampHours, amps } from '../../../quantity/text';
import type { Rule } from '../rule';

export const zeroThreshold: Rule = {
  code: 'zero-threshold',
  says: 'zero threshold against the tail and the smallest load',
  on: 'monitor',
  about: 'thresholdA',
  review(s) {
    const set = s.monitor('thresholdA');
    if (set === 0) return null;
    const tail = (s.monitor('tailPercent') / 100) * s.monitor('capacityAh');
    if (set >= tail)
      return {
        weight: 'fault',
        setting: 'thresholdA',
        text: `Currents below ${amps(set)} count as nothing, and the tail is ${amps(tail)}.`,
        why: 'What flows below the threshold is never counted, in or out; at the end of each charge that is all that flows.',
        fix: 'Lower the threshold well below the tail.',
        advise: true,
      };
    const standing = s.loads
      .filter((one) => (one.raw.hoursPerDay ?? 0) >= 20 && one.raw.usualA !== undefined)
      .map((one) => ({ name: one.name, amps: one.raw.usualA! }));
    const together = standing.reduce((total, one) => total + one.amps, 0);
    if (standing.length > 0 && together <= set)
      return {
        weight: 'fault',
        setting: 'thresholdA',
        text: `Currents below ${amps(set)} count as nothing, and the standing loads draw ${amps(together)} together.`,
        why: `Day and night that is ${ampHours(24 * together)} a day that the monitor does not see: the reading stays too high.`,
        fix: 'Lower the threshold below the standing load.',
        advise: true,
      };
    return null;
  },
};
