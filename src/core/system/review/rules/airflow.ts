/** Is there enough fresh air for the hydrogen of boost and equalisation? */

import { freeOpeningSquareCm, gasses, requiredAirflow } from '../../airflow';
import type { Rule } from '../rule';

export const airflowRule: Rule = {
  code: 'airflow',
  says: 'fresh air for boost and equalisation (IEC 62485-2)',
  on: 'bank',
  review(s) {
    const chemistry = s.chemistry();
    if (!gasses(chemistry)) return null;
    const needed = requiredAirflow(chemistry, s.cells(), s.bank('capacityAh'), 'boost');
    const given = s.site('airflow');
    if (given >= needed) return null;
    return {
      weight: 'fault',
      setting: 'airflow',
      text: `Boost and equalisation ask for ${needed.toFixed(1)} m³/h of fresh air (IEC 62485-2); ${given.toFixed(1)} m³/h are there.`,
      why: 'Hydrogen burns in air from 4 % by volume on.',
      fix: `Ventilate: a free opening of ${Math.ceil(freeOpeningSquareCm(needed))} cm² at the inlet and at the outlet, or a fan. Until then no boost and no equalisation, no sparks, no smoking. Local codes come first.`,
      hazard: 'hydrogen',
    };
  },
};
