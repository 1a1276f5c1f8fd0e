/** The charger ends absorption on the clock while the battery still takes current. */

import type { Cause } from './cause';
import { EARLY_END_WEIGHTS, weighEarlyEnd } from './earlyEnd';
import { GAS, tailText } from './remedy';

export const absorptionTooShort: Cause = {
  code: 'absorption-too-short',
  title: 'Absorption ends too early, on the clock',
  complaint: 'undercharging',
  chemistries: ['flooded', 'agm', 'gel'],
  families: ['charging'],
  needs: 'voltage and current of the charger or the battery over a few charges that reach absorption',
  signature: 'the plateau ends after the same time again and again, with the current well above the tail',
  prior: { complained: -5, otherwise: -10 },
  weights: EARLY_END_WEIGHTS,
  caps: { clock: 10 },
  remedy: ({ bank, charging }) => {
    const longest = Math.max(0, ...charging.map((one) => one.missing?.minutesBand.max ?? 0));
    return {
      text: `Let absorption go on until the current is down to ${tailText(bank)}${longest >= 10 ? `: by the log about ${Math.ceil(longest / 15) * 15} min more than now` : ''}. Set the longer time, with the tail as its end where the charger knows one, and look at the current again after a week.`,
      caution: GAS,
    };
  },
  tests: {
    'lengthen-absorption': [
      { name: 'the current goes on falling to the tail', ifHolds: 0.88, ifNot: 0.08 },
      { name: 'it ends as before', ifHolds: 0.12, ifNot: 0.92 },
    ],
    'read-charger-settings': [
      { name: 'the time set is the one seen', ifHolds: 0.85, ifNot: 0.15 },
      { name: 'another time is set', ifHolds: 0.15, ifNot: 0.85 },
    ],
  },
  weigh: ({ charging }) => charging.flatMap((one) => weighEarlyEnd(one, 'timer')),
  missing: ({ charging }, evidence) =>
    charging.length > 0 && evidence.length === 0 ? ['a charge that reaches absorption'] : [],
};
