/** Does the monitor’s tail current mean full, and is it ever met? */

import { amps, percent } from '../../../quantity/text';
import { chargingSources } from '../subject';
import type { Rule } from '../rule';

export const monitorTailRule: Rule = {
  code: 'monitor-tail',
  says: 'tail of the monitor by school',
  on: 'monitor',
  about: 'tailPercent',
  review(s) {
    const set = s.monitor('tailPercent');
    const most = s.lead() ? 8 : 7;
    if (set > most)
      return {
        weight: 'fault',
        setting: 'tailPercent',
        text: `The tail is ${percent(set)} of capacity.`,
        why: 'A battery that still takes as much is not full: with a weak source or a cloud the monitor calls it full far too early.',
        fix: 'Lower the tail current.',
        advise: true,
      };
    const least = s.lead() ? 1 : 0.5;
    if (set < least)
      return {
        weight: 'caution',
        setting: 'tailPercent',
        text: `The tail is ${percent(set)} of capacity.`,
        why: 'Old, warm or loaded batteries never take so little while held: the monitor may never call them full.',
        fix: 'Raise the tail current: let it float 5 to 10 min, read the current, set a little above.',
        advise: true,
      };
    const capacity = s.monitor('capacityAh');
    const ends = chargingSources(s).flatMap((one) => {
      const { tailA, floatV } = one.raw.profile;
      const charged = s.system.monitor?.chargedV;
      // Where the charged voltage lies above float, the tail must be met before the charger goes to float.
      return tailA !== undefined && floatV !== undefined && charged !== undefined && charged > floatV
        ? [{ name: one.name, tailA }]
        : [];
    });
    const early = ends.find((one) => one.tailA > (set / 100) * capacity);
    if (!early) return null;
    return {
      weight: 'fault',
      setting: 'tailPercent',
      text: `${early.name} ends absorption at ${amps(early.tailA)}; the monitor waits for ${amps((set / 100) * capacity)} at a voltage above float.`,
      why: 'The charger goes to float before the monitor has seen its tail at the charged voltage: it is never called full.',
      fix: 'Set the monitor’s tail above the current at which the charger ends absorption.',
      advise: true,
    };
  },
};
