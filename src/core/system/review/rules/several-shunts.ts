/** Of a monitor that sums several shunts: does each device pass exactly one? */

import type { Note, Rule } from '../rule';

export const severalShunts: Rule = {
  code: 'several-shunts',
  says: 'which device passes which of several shunts',
  on: 'monitor',
  review(s) {
    const shunts = s.system.monitor?.shunts ?? [];
    if (shunts.length === 0) return null;
    const devices = [...s.sources, ...s.loads];
    const on = (id: string) => shunts.filter((one) => one.devices.includes(id));
    const notes: Note[] = [];
    for (const one of devices) {
      const passes = on(one.id);
      if (passes.length > 1)
        notes.push({
          weight: 'fault',
          text: `${one.name} is described on ${passes.map((each) => each.name).join(' and ')}.`,
          why: 'The monitor sums its shunts: what passes two of them is counted twice.',
          fix: 'Find out which one it passes; two devices may share a shunt, but no device has two.',
        });
      if (passes.length === 0 && one.raw.counted !== false)
        notes.push({
          weight: 'caution',
          text: `${one.name} is described on none of the monitor’s shunts.`,
          why: 'The percentage is the sum of the shunts: what passes none of them is missing from it.',
          fix: 'Say which shunt it passes, or that it is not counted.',
        });
    }
    return notes;
  },
};
