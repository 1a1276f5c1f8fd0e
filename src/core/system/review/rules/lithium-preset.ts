/** Is lithium charged with a lead preset, and may it be? */

import type { Rule } from '../rule';

export const lithiumPreset: Rule = {
  code: 'lithium-preset',
  says: 'a lead preset on lithium, and the school of the one that fits',
  on: 'source',
  review(s, source) {
    if (s.lead()) return null;
    const preset = source.profile('preset');
    if (preset === 'lithium') return null;
    const school = s.schools.leadPreset;
    if (preset === 'flooded')
      return {
        weight: 'fault',
        setting: 'profile.preset',
        text: `${source.name} runs its flooded lead profile on lithium.`,
        why: 'The flooded profile equalises and compensates: it is the one lead preset that never fits lithium.',
        fix: 'Choose the lithium preset, or a profile of your own with equalisation and compensation off.',
        advise: true,
      };
    if (preset === 'own-lead-only' || (preset === 'own' && school === 'fixed'))
      return {
        weight: 'caution',
        setting: 'profile.preset',
        text: `The profile of ${source.name} that can be set is meant for lead only.`,
        why: 'Such a profile keeps lead habits in the background, such as compensation or a return to absorption.',
        fix: 'Use the fixed lithium preset of this charger.',
        advise: true,
      };
    if (preset === 'own') return null;
    const { absorptionV } = source.raw.profile;
    const { min, max } = s.chargeVolts();
    const fits = absorptionV !== undefined && absorptionV >= min && absorptionV <= max;
    if (school === 'fits' && fits) return null;
    return {
      weight: fits ? 'caution' : 'fault',
      setting: 'profile.preset',
      text: `${source.name} runs its ${preset === 'agm' ? 'AGM' : 'gel'} lead preset on lithium.`,
      why: fits
        ? 'Its voltage lies in range, so the school of “the lead preset that fits” allows it with equalisation and compensation off; it still floats and returns to absorption as lead would want it.'
        : 'Its charge voltage is not in the battery’s range.',
      fix: 'Choose the lithium preset or a profile of your own; failing that a lead preset whose voltages fit, with equalisation and compensation off.',
      advise: true,
    };
  },
};
