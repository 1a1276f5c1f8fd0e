/** Does the lead preset of a charger fit the kind of lead battery? */

import type { Rule } from '../rule';

export const leadPreset: Rule = {
  code: 'lead-preset',
  says: 'the charger’s preset against the kind of lead battery',
  on: 'source',
  review(s, source) {
    if (!s.lead()) return null;
    // Voltages and times are judged by themselves: a preset that nobody has read is not asked for.
    const { preset } = source.raw.profile;
    const chemistry = s.chemistry();
    if (preset === undefined || preset === 'own' || preset === 'own-lead-only' || preset === chemistry)
      return null;
    const battery = s.figures().name;
    if (preset === 'lithium')
      return {
        weight: 'fault',
        setting: 'profile.preset',
        text: `${source.name} runs its lithium preset on this ${battery} battery.`,
        why: 'It does not compensate for temperature, absorbs too briefly, and never equalises: a lead battery is never full by it.',
        fix: `Choose the ${chemistry === 'flooded' ? 'flooded' : chemistry.toUpperCase()} preset, or a profile of your own by the maker’s sheet.`,
        advise: true,
      };
    if (preset === 'flooded')
      return {
        weight: 'fault',
        setting: 'profile.preset',
        text: `${source.name} runs its flooded preset on this ${battery} battery.`,
        why: 'Most flooded presets hold an equalisation that comes by itself, once a month or so; what it drives out of a sealed battery never comes back.',
        fix: 'Choose the preset of this battery, and see that equalisation is off.',
        advise: true,
      };
    return {
      weight: 'caution',
      setting: 'profile.preset',
      text: `${source.name} runs its ${preset === 'agm' ? 'AGM' : 'gel'} preset on this ${battery} battery.`,
      why:
        chemistry === 'flooded'
          ? 'A preset for sealed batteries charges lower and never equalises: a flooded battery slowly sulphates and its acid settles in layers.'
          : 'The two kinds of sealed battery differ by 0.2 to 0.4 V a 12 V block: gel is overcharged by an AGM preset, AGM undercharged by a gel preset.',
      fix: 'Choose the preset of this battery, or set its maker’s voltages.',
      advise: true,
    };
  },
};
