/** The monitor's own alarms, and the voltage at which it calls the battery empty. Limits are common practice, no source. */

import { amps, celsius, volts } from '../../../quantity/text';
import { chargingSources } from '../subject';
import type { Note, Rule } from '../rule';

/** V per 12 V block between which a battery under load may be called empty. */
const EMPTY = { lead: { min: 10.5, max: 12.1 }, lithium: { min: 10, max: 12.4 } };
/** A battery hotter than the first is warned of too late, and one cooler than the second for nothing. */
const HOT = { most: 60, least: 35 };

export const monitorAlarms: Rule = {
  code: 'monitor-alarms',
  says: 'the monitor’s own alarms, and when it calls the battery empty',
  on: 'monitor',
  review(s) {
    const { emptyV, alarmHighV, alarmA, alarmC } = s.system.monitor ?? {};
    const notes: Note[] = [];
    if (emptyV !== undefined) {
      const { min, max } = EMPTY[s.lead() ? 'lead' : 'lithium'];
      const [least, most] = [min * s.blocks(), max * s.blocks()];
      if (emptyV < least || emptyV > most)
        notes.push({
          weight: 'caution',
          setting: 'emptyV',
          text: `The monitor calls the battery empty at ${volts(emptyV)}; ${volts(least)} to ${volts(most)} would be expected.`,
          why:
            emptyV > most
              ? 'A load pulls a healthy battery down there: the reading falls to nothing while half is left.'
              : 'By then the battery is past its end, and the count is set to nothing too late.',
          fix: 'Set it to where this battery is empty under its usual load.',
        });
    }
    const held = chargingSources(s).flatMap(({ raw }) => [
      raw.profile.absorptionV ?? [],
      raw.profile.equalise?.volts ?? [],
    ]);
    const most = Math.max(...held.flat());
    if (alarmHighV !== undefined && Number.isFinite(most) && alarmHighV <= most + 0.05 * s.blocks())
      notes.push({
        weight: 'caution',
        setting: 'alarmHighV',
        text: `The high-voltage alarm sounds at ${volts(alarmHighV)}; a charger goes to ${volts(most)}.`,
        why: 'It sounds at every charge, and is soon not listened to.',
        fix: 'Set it a little above the highest voltage that a charger is meant to reach.',
      });
    const limit = s.system.bms?.cellHighV;
    if (alarmHighV !== undefined && limit !== undefined && alarmHighV >= limit * s.cells())
      notes.push({
        weight: 'caution',
        setting: 'alarmHighV',
        text: `The high-voltage alarm sounds at ${volts(alarmHighV)}, and the BMS opens at ${volts(limit * s.cells())} or before.`,
        why: 'The battery is gone before anybody is warned.',
        fix: 'Set it under the limit of the BMS.',
      });
    const running = s.loads.reduce((sum, one) => sum + (one.raw.usualA ?? 0), 0);
    if (alarmA !== undefined && running > 0 && alarmA <= running)
      notes.push({
        weight: 'caution',
        setting: 'alarmA',
        text: `The current alarm sounds at ${amps(alarmA)}; the loads draw ${amps(running)} when all run.`,
        why: 'It sounds in use.',
        fix: 'Set it between what runs and what the weakest link carries.',
      });
    if (alarmC !== undefined && (alarmC > HOT.most || alarmC < HOT.least))
      notes.push({
        weight: 'caution',
        setting: 'alarmC',
        text: `The temperature alarm sounds at ${celsius(alarmC)}.`,
        why:
          alarmC > HOT.most
            ? 'A battery that hot is being harmed already.'
            : 'A warm summer’s day sets it off, and it is soon not listened to.',
        fix: 'Set it to 45 to 50 °C, or as the battery’s maker says.',
      });
    return notes;
  },
};
