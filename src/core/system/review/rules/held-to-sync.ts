/** Is the charge voltage of lithium held as long as the monitor wants to see it? */

import { volts } from '../../../quantity/text';
import { chargingSources } from '../subject';
import type { Note, Rule } from '../rule';

export const heldToSync: Rule = {
  code: 'held-to-sync',
  says: 'absorption of lithium against the monitor’s detection time',
  on: 'monitor',
  about: 'detectionMinutes',
  review(s) {
    if (s.lead()) return null;
    const wait = s.monitor('detectionMinutes');
    const charged = s.monitor('chargedV');
    const short = chargingSources(s).filter((one) => {
      const { absorptionMinutes, floatV } = one.raw.profile;
      // A float above the charged voltage is as good as absorption.
      return (
        absorptionMinutes !== undefined &&
        absorptionMinutes < wait &&
        !(floatV !== undefined && floatV >= charged)
      );
    });
    return short.map((one): Note => ({
      weight: 'caution',
      setting: 'detectionMinutes',
      text: `${one.name} holds its voltage for ${one.raw.profile.absorptionMinutes} min and falls back under ${volts(charged)}; the monitor wants to see it for ${wait} min.`,
      why: 'The charger has left the voltage before the monitor has seen it for long enough: the battery is full, and the reading is never set to full.',
      fix: 'Hold the voltage a few minutes longer than the detection time, or shorten the detection time.',
    }));
  },
};
