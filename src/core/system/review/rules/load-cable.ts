/** Does the cable to the load cost so much that it cuts off early? */

import { amps, percent, volts } from '../../../quantity/text';
import { COPPER_OHMS_PER_KM, pairOhms } from '../../conductor';
import type { Rule } from '../rule';

export const loadCable: Rule = {
  code: 'load-cable',
  says: 'drop between the battery and a load (IEC 60228)',
  on: 'load',
  review(s, load) {
    const { metres, squareMm } = load.ask('conductor');
    const current = load.ask('usualA');
    const drop = pairOhms(metres, squareMm, 30) * current;
    const nominal = 12 * s.blocks();
    if (drop <= 0.03 * nominal) return null;
    return {
      weight: drop > 0.05 * nominal ? 'fault' : 'caution',
      text: `${metres} m of ${squareMm} mm² to ${load.name} lose ${volts(drop)} at ${amps(current)}, ${percent((100 * drop) / nominal)} (IEC 60228).`,
      why: 'The load sees a battery that is emptier than it is, and lets go too soon.',
      fix: `Use ${suggestion(metres, current, 0.03 * nominal)}, or move the load nearer. Joints come on top: measure them.`,
    };
  },
};

/** The thinnest listed size that keeps the drop, in words. */
function suggestion(metres: number, amps: number, drop: number): string {
  const size = COPPER_OHMS_PER_KM.find(([squareMm]) => pairOhms(metres, squareMm, 30) * amps <= drop);
  return size ? `${size[0]} mm² or more` : 'conductors in parallel';
}
