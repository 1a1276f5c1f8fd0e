/** Does the cable between charger and battery cost voltage that the charger cannot see? */

import { amps, volts } from '../../../quantity/text';
import { pairOhms } from '../../conductor';
import type { Rule } from '../rule';

export const sourceCable: Rule = {
  code: 'source-cable',
  says: 'drop between a charger and the battery (IEC 60228)',
  on: 'source',
  review(s, source) {
    const { metres, squareMm } = source.ask('conductor');
    const current = source.ask('ratedA');
    const ohms = pairOhms(metres, squareMm, 30);
    const drop = ohms * current;
    const sensed = source.raw.senses === 'battery';
    if (drop <= (sensed ? 0.4 : 0.2) * s.blocks()) return null;
    return {
      weight: 'caution',
      text: `Between ${source.name} and the battery ${metres} m of ${squareMm} mm² lose ${volts(drop)} at ${amps(current)} (IEC 60228)${sensed ? ', although it senses at the battery' : ', and it measures at its own terminals'}.`,
      why: sensed
        ? 'The loss is made good by the sense lead, at the price of heat.'
        : 'The charger sees its target early: bulk ends too soon and charging drags on.',
      fix: 'A thicker or shorter cable, or a sense lead to the battery through its own fuse.',
    };
  },
};
