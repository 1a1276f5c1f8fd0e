/** Resistance between a charger and the battery: the charger sees its target early. */

import type { SourceCharging } from '../charge/types';
import { amps, milliohms, volts } from '../quantity/text';
import { blocksInSeries } from '../system/chemistry';
import { type Cause, type Evidence, oneIsEnough, weightOf } from './cause';
import { PATH_ANSWERS, PATH_WEIGHTS, weighPaths } from './paths';
import { LIVE } from './remedy';

const WEIGHTS = {
  ...PATH_WEIGHTS,
  /** Lost between charger and battery at the usual current, V a 12 V block. */
  lostVolts: [
    [0.5, 15],
    [0.3, 14],
    [0.22, 12],
    [0.19, 11],
    [0.16, 10],
    [0.14, 6],
    [0.1, -3],
    [-1, -13],
  ],
  /** The difference follows the current over its whole range: by how much the slope exceeds its error. */
  proportional: [
    [10, 6],
    [4, 4],
  ],
  /** The charger measures at the battery: the drop does not deceive it. */
  sensesThere: -6,
} as const;

export const chargePathDrop: Cause = {
  code: 'charge-path-drop',
  title: 'Resistance between charger and battery',
  complaint: 'undercharging',
  chemistries: 'all',
  families: ['charging', 'both-ends'],
  needs: 'voltage at the charger and at the battery together, or millivolts over each joint while charging',
  signature: 'charger voltage less battery voltage in proportion to the current',
  prior: { complained: -5, otherwise: -12 },
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  answers: PATH_ANSWERS,
  remedy: ({ charging }) => {
    const worst = charging.reduce((most, one) => Math.max(most, one.path?.lostVolts ?? 0), 0);
    return {
      text: `Measure millivolts over each joint, fuse and switch under current, clean and tighten the worst, and use thicker or shorter cable where the cable itself is it${worst >= 0.1 ? `: ${worst.toFixed(2)} V are lost now` : ''}. A sense lead to the posts helps the voltage, not the heat.`,
      caution: LIVE,
    };
  },
  onSite: { 'charge-path-loses': 12, 'charge-path-sound': -8 },
  tests: {
    'millivolts-over-joints': [
      { name: 'on the way from the charger a joint above 1 mΩ', ifHolds: 0.85, ifNot: 0.1 },
      { name: 'all of them well under', ifHolds: 0.15, ifNot: 0.9 },
    ],
  },
  described: (seen) =>
    weighPaths(
      seen,
      seen.system.sources
        .filter((one) => one.senses !== 'battery')
        .map((one) => ({ name: one.name, conductor: one.conductor, amps: one.ratedA })),
    ),
  weigh: ({ charging }) =>
    // Another charger whose path is sound clears none.
    oneIsEnough(charging.map(ofPath)),
  missing: (_, evidence) =>
    evidence.some((one) => one.group === 'joints') ? [] : ['millivolts over each joint while charging'],
};

function ofPath({ source, path, bank, charges }: SourceCharging): Evidence[] {
  if (!path) return [];
  const blocks = blocksInSeries(bank);
  // Noise in two meters is no resistance.
  const sure = path.ohms > 4 * path.error;
  const lost = sure ? path.lostVolts / blocks : 0;
  const name = source?.name ?? 'The charger';
  const apart =
    Math.abs(path.offsetVolts) > 0.06 * blocks
      ? ` At no current the two meters differ by ${volts(path.offsetVolts)}: that is the meters, not the path.`
      : '';
  return [
    {
      text: `Between ${name} and the battery ${volts(Math.max(0, path.lostVolts))} are lost at ${amps(path.amps)}: ${milliohms(Math.max(0, path.ohms))}, ${Math.max(0, path.lostWatts).toFixed(0)} W of heat in cable and joints.${apart}`,
      decibans: weightOf(WEIGHTS.lostVolts, lost),
      group: 'path',
      spans: charges,
    },
    ...(lost >= 0.14 && path.overRange
      ? [
          {
            text: 'The difference follows the current over its whole range, as only a resistance makes it.',
            decibans: weightOf(WEIGHTS.proportional, path.ohms / path.error),
            group: 'proportional',
            spans: [],
          },
        ]
      : []),
    ...(source?.senses === 'battery' && lost > 0.1
      ? [
          {
            text: `${name} measures at the battery: it holds its voltage there, whatever is lost on the way.`,
            decibans: WEIGHTS.sensesThere,
            group: 'sense',
            spans: [],
          },
        ]
      : []),
  ];
}
