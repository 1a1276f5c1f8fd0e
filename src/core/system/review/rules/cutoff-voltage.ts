/** Does the load let go where the battery is empty at that current, neither before nor after? */

import { amps, percent, volts } from '../../../quantity/text';
import { restPercent, restVolts } from '../../restVoltage';
import { sagVolts } from '../../sag';
import { basics } from '../subject';
import type { Rule } from '../rule';

export const cutoffVoltage: Rule = {
  code: 'cutoff-voltage',
  says: 'cut-off against rest and loaded voltage at that load',
  on: 'load',
  review(s, load) {
    const set = load.ask('cutoffV');
    const blocks = s.blocks();
    const lowest = (s.lead() ? 11.4 : 10) * blocks;
    if (set < lowest)
      return {
        weight: 'caution',
        setting: 'cutoffV',
        text: `${load.name} cuts off at ${volts(set)}.`,
        why: s.lead()
          ? 'Below that a lead battery is all but empty even under load: each such cut-off costs life. 12.0 V for a 12 V battery is kinder.'
          : 'Below that the BMS opens first, and may not close again without help.',
        fix: 'Raise the cut-off.',
        advise: true,
      };
    const current = load.ask('usualA');
    const sag = sagVolts(basics(s), load.raw.conductor, current);
    const lost = sag.battery + sag.cable;
    const bound = s.lead() ? 60 : 40;
    const healthy = restVolts(s.chemistry(), bound) * blocks - lost;
    if (set <= healthy) return null;
    const rest = restPercent(s.chemistry(), (set + lost) / blocks);
    return {
      weight: 'fault',
      setting: 'cutoffV',
      text: `${load.name} cuts off at ${volts(set)}. At ${amps(current)} about ${volts(sag.battery)} are lost in the battery and ${volts(sag.cable)} in the cable, so that it lets go with about ${percent(rest)} left.`,
      why: 'A cut-off meant for a resting battery acts on a loaded one: the load drops although the battery is well.',
      fix:
        sag.cable > sag.battery && sag.cable > 0.03 * restVolts(s.chemistry(), 100) * blocks
          ? 'Mend the cable first: shorter or thicker. Then set the cut-off for the loaded voltage.'
          : 'Set the cut-off for the loaded voltage. Do not lower it to hide a bad joint: measure the drop first.',
      advise: true,
    };
  },
};
