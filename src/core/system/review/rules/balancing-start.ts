/** Does balancing start at a voltage that the charger reaches, and not in the flat part? */

import { volts } from '../../../quantity/text';
import { reached } from '../subject';
import type { Rule } from '../rule';

export const balancingStart: Rule = {
  code: 'balancing-start',
  says: 'where balancing starts',
  on: 'bms',
  review(s) {
    const set = s.bms('balanceV');
    const charged = reached(s, (one) => one.profile('absorptionV'));
    const stops = Math.max(...charged) / s.cells();
    // At the very voltage that is held only runners are bled: a school of its own.
    if (charged.length > 0 && s.schools.balanceStart === 'at' && Math.abs(set - stops) <= 0.02) return null;
    if (charged.length > 0 && set >= stops)
      return {
        weight: 'fault',
        setting: 'balanceV',
        text: `Balancing starts at ${volts(set)} per cell; the charger stops at ${volts(stops)} per cell.`,
        why: 'The cells are never balanced: one runs ahead, and one day the BMS opens because of it.',
        fix: 'Start balancing below the charge voltage per cell, or charge higher.',
        advise: true,
      };
    if (set < 3.38)
      return {
        weight: 'caution',
        setting: 'balanceV',
        text: `Balancing starts at ${volts(set)} per cell.`,
        why: 'In the flat part a cell’s voltage says little of its charge: balancing there unbalances the pack.',
        fix: 'Start balancing near the charge voltage per cell.',
        advise: true,
      };
    return null;
  },
};
