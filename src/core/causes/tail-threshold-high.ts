/** The charger ends absorption at too high a current. */

import type { Cause } from './cause';
import { EARLY_END_WEIGHTS, weighEarlyEnd } from './earlyEnd';
import { GAS, tailText } from './remedy';

export const tailThresholdHigh: Cause = {
  code: 'tail-threshold-high',
  title: 'Absorption ends at too high a current',
  complaint: 'undercharging',
  chemistries: ['flooded', 'agm', 'gel'],
  families: ['charging'],
  needs:
    'voltage and current of the charger over a few charges that reach absorption, after differing discharges',
  signature:
    'the plateau ends at the same current again and again, well above the battery’s tail, after differing times',
  prior: { complained: -8, otherwise: -12 },
  weights: EARLY_END_WEIGHTS,
  caps: { clock: 13 },
  remedy: ({ bank, system }) => ({
    text: `Lower the current at which absorption ends to ${tailText(bank)}; where loads run while it charges, add what they draw${system.sources.length > 1 ? ', and mind that other sources take a part of it' : ''}.`,
    caution: GAS,
  }),
  tests: {
    'read-charger-settings': [
      { name: 'the tail current set is the one seen', ifHolds: 0.85, ifNot: 0.1 },
      { name: 'another, or none, is set', ifHolds: 0.15, ifNot: 0.9 },
    ],
  },
  weigh: ({ charging }) => charging.flatMap((one) => weighEarlyEnd(one, 'tail')),
  missing: ({ charging }, evidence) =>
    charging.length > 0 && evidence.length === 0 ? ['a charge that reaches absorption'] : [],
};
