/** Does the charger follow the temperature as a lead battery wants it? */

import { volts } from '../../../quantity/text';
import type { Rule } from '../rule';

export const compensationRule: Rule = {
  code: 'compensation',
  says: 'temperature compensation of lead-acid against the bank and the site',
  on: 'source',
  review(s, source) {
    if (!s.lead()) return null;
    const set = source.profile('compensationMvPerCellPerC');
    const { min, max } = s.compensation();
    if (set >= min - 0.6 && set <= max + 0.6) return null;
    const swing = Math.max(
      Math.abs((s.system.site?.coldestC ?? 10) - 25),
      Math.abs((s.system.site?.warmestC ?? 30) - 25),
    );
    const error = (Math.min(Math.abs(set - min), Math.abs(set - max)) * s.cells() * swing) / 1000;
    return {
      weight: error > 0.1 * s.blocks() ? 'fault' : 'remark',
      setting: 'profile.compensationMvPerCellPerC',
      text:
        set === 0
          ? `${source.name} does not compensate for temperature: ${swing} °C away from 25 °C it is off by ${volts(error)} or more.`
          : `${source.name} compensates by ${set} mV per °C per cell; the battery asks for ${min} to ${max}.`,
      why: 'Cold lead-acid needs more voltage to get full, warm less, or it gasses and dries out.',
      fix: 'Set the compensation of the battery’s sheet, with the sensor on the battery.',
      advise: true,
    };
  },
};
