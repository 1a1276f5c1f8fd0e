/** Does the alarm sound while the battery is still well, only because it is loaded? */

import { amps, percent, volts } from '../../../quantity/text';
import { restPercent, restVolts } from '../../restVoltage';
import { sagVolts } from '../../sag';
import type { Rule } from '../rule';
import { basics } from '../subject';

export const alarmVoltage: Rule = {
  code: 'alarm-voltage',
  says: 'alarm against rest and loaded voltage at that load',
  on: 'load',
  review(s, load) {
    const set = load.raw.alarmV;
    // Many loads have none: leaving it out says so.
    if (set === undefined) return null;
    const current = load.ask('usualA');
    const { battery, cable } = sagVolts(basics(s), load.raw.conductor, current);
    const lost = battery + cable;
    const blocks = s.blocks();
    // By the early school it sounds at the rest voltage of half, whatever the load takes off.
    if (s.schools.alarm === 'early' && set <= restVolts(s.chemistry(), 60) * blocks) return null;
    if (set <= restVolts(s.chemistry(), 80) * blocks - lost) return null;
    const left = restPercent(s.chemistry(), (set + lost) / blocks);
    return {
      weight: 'caution',
      setting: 'alarmV',
      text: `${load.name} alarms at ${volts(set)}. At ${amps(current)} about ${volts(lost)} are lost on the way, so that it sounds with about ${percent(left)} left.`,
      why: 'An alarm that sounds while the battery is well is soon not listened to.',
      fix: 'Lower the alarm, but keep it above the cut-off.',
      advise: true,
    };
  },
};
