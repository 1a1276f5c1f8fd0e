/** The charge voltage is below what the battery asks for at its temperature. */

import type { Cause } from './cause';
import { weighPlateaus, weighTold } from './plateaus';
import { chargeRange, GAS } from './remedy';

const WEIGHTS = {
  /** Plateau below the battery's range, mV per cell. */
  plateauBelow: [
    [40, 15],
    [25, 13],
    [16, 7],
    [8, -3],
    [-1e9, -12],
  ],
  /** The same on every charge, so no accident of one day. */
  plateauRepeats: 6,
  /** Told charge voltage below the range, mV per cell. */
  toldBelow: [
    [25, 7],
    [8, 4],
    [-1e9, -3],
  ],
} as const;

const SIDE = {
  plateau: WEIGHTS.plateauBelow,
  told: WEIGHTS.toldBelow,
  repeats: WEIGHTS.plateauRepeats,
  outside: 16,
};

export const chargeVoltageLow: Cause = {
  code: 'charge-voltage-low',
  title: 'Charge voltage is too low for this battery',
  complaint: 'undercharging',
  chemistries: 'all',
  families: ['charging'],
  needs:
    'voltage and current of the charger or the battery over charges that reach a plateau; battery temperature helps',
  signature: 'the plateau lies, at its temperature, below the range that the battery asks for',
  prior: { complained: -5, otherwise: -10 },
  weights: WEIGHTS,
  caps: { told: 7 },
  remedy: ({ bank, system }) => ({
    text: `Set the absorption voltage to ${chargeRange(bank, system)}, measure it at the battery’s posts while it holds, and log a few more charges. Below it the last fifth never goes in.`,
    caution: GAS,
  }),
  tests: {
    'read-charger-settings': [
      { name: 'the charge voltage set is below the range', ifHolds: 0.8, ifNot: 0.04 },
      { name: 'it is within the range', ifHolds: 0.2, ifNot: 0.96 },
    ],
    'meter-at-terminals': [
      { name: 'below the range while absorbing', ifHolds: 0.93, ifNot: 0.05 },
      { name: 'within the range', ifHolds: 0.07, ifNot: 0.95 },
    ],
  },
  described: (seen) => weighTold(seen, 'below', SIDE),
  weigh: ({ charging, system }) => charging.flatMap((one) => weighPlateaus(one, system, 'below', SIDE)),
  missing: (seen, evidence) =>
    seen.charging.length > 0 && !evidence.some((one) => one.group === 'plateau')
      ? ['a charge that reaches a held voltage']
      : [],
};
