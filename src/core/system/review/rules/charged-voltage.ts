/** Do the sources reach the charged voltage, and does only a full battery? */

import { volts } from '../../../quantity/text';
import { reachAt } from '../advice';
import { chargingSources } from '../subject';
import type { Rule } from '../rule';

export const chargedVoltage: Rule = {
  code: 'charged-voltage',
  says: 'charged voltage against what each source reaches',
  on: 'monitor',
  about: 'chargedV',
  review(s) {
    const set = s.monitor('chargedV');
    const blocks = s.blocks();
    const counted = chargingSources(s);
    const reach = reachAt(s, 25);
    if (reach === null) return null;
    if (set >= reach)
      return {
        weight: 'fault',
        setting: 'chargedV',
        text: `The charged voltage is ${volts(set)}; no source goes above ${volts(reach)}.`,
        why: 'The monitor never calls the battery full, never sets itself right, and its reading slowly stops meaning anything.',
        fix: 'Lower the charged voltage below what the chargers hold.',
        advise: true,
      };
    const floor = (s.lead() ? 12.9 : 13.35) * blocks;
    if (set < floor)
      return {
        weight: 'fault',
        setting: 'chargedV',
        text: `The charged voltage is ${volts(set)}: a battery that is not full gets there with any charger, or at rest.`,
        why: 'The monitor calls the battery full too early, and the reading is too high until the next true full charge.',
        fix: 'Raise the charged voltage.',
        advise: true,
      };
    const floats = counted.flatMap((one) => one.raw.profile.floatV ?? []);
    const highestFloat = Math.max(0, ...floats);
    if (s.lead() && s.schools.sync === 'varying' && floats.length > 0 && set <= highestFloat - 0.05 * blocks)
      return {
        weight: 'caution',
        setting: 'chargedV',
        text: `The charged voltage is ${volts(set)}, below float (${volts(highestFloat)}), with a source that comes and goes.`,
        why: 'A cloud makes the current collapse while the voltage is still above float: the float-based rule takes that for full.',
        fix: 'Set it a little below absorption.',
        advise: true,
      };
    const warm = s.system.site?.warmestC;
    if (s.lead() && warm !== undefined && warm > 25 && s.schools.sync === 'varying') {
      const hot = reachAt(s, warm);
      if (hot !== null && set >= hot)
        return {
          weight: 'remark',
          setting: 'chargedV',
          text: `At ${warm} °C the chargers hold ${volts(hot)}, not more than the charged voltage of ${volts(set)}.`,
          why: 'On the hottest days the monitor does not set itself right.',
          fix: 'Lower it a little if the summer reading drifts.',
        };
    }
    const weakest = Math.min(...counted.map((one) => one.profile('absorptionV')));
    if (counted.length > 0 && set >= weakest)
      return {
        weight: 'caution',
        setting: 'chargedV',
        text: `The charged voltage is ${volts(set)}; ${counted.find((one) => one.profile('absorptionV') === weakest)!.name} goes to ${volts(weakest)} only.`,
        why: 'When that source charges alone the monitor never calls the battery full.',
        fix: 'Lower the charged voltage below what each charger holds, or give the chargers the same target.',
        advise: true,
      };
    return null;
  },
};
