/** Lead that is charged alike in cold and heat: the plateau does not follow its temperature. */

import { median } from '../quantity/numbers';
import { celsius, slopeMv, volts } from '../quantity/text';
import { expectedVolts } from '../system/chemistry';
import { inDoubt, isKnown, slopeText } from './compensation';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { plateausOf } from './plateaus';
import { compensationRange } from './remedy';

const WEIGHTS = {
  /** Slope, mV per °C and cell: about none, against the three to five that lead asks for. */
  slope: [
    [1.5, -2],
    [-0.8, 15],
    [-1.2, 11],
    [-1.8, 4],
    [-2.4, -6],
    [-1e9, -14],
  ],
  /** Right for 25 °C and wrong for its temperature, mV per cell. */
  rightAt25: [
    [60, 12],
    [40, 9],
    [20, 5],
    [0, 0],
  ],
  configuredNone: 5,
  /** It holds what it is set to for 25 °C, and is set to no compensation: setting and log say the same. */
  asSet: 4,
  configuredSome: -3,
} as const;

export const compensationMissing: Cause = {
  code: 'compensation-missing',
  title: 'No temperature compensation',
  complaint: 'undercharging',
  chemistries: ['flooded', 'agm', 'gel'],
  families: ['charging', 'battery-temperature'],
  needs:
    'battery temperature beside the charge voltage over days that differ by 5 °C or more, or far from 25 °C',
  signature: 'the plateau stands at the same voltage whatever the temperature',
  prior: { complained: -4, otherwise: -10 },
  weights: WEIGHTS,
  remedy: ({ bank }) => ({
    text: `Switch compensation on at ${compensationRange(bank)}, with the sensor on the battery, not in the charger; where there is no sensor, set the voltages by the season.`,
    caution: null,
  }),
  tests: {
    'compare-sensor': [
      { name: 'compensation off, or no sensor', ifHolds: 0.9, ifNot: 0.05 },
      { name: 'on, and the sensor is right', ifHolds: 0.1, ifNot: 0.95 },
    ],
  },
  described: ({ system }) =>
    system.sources.flatMap(({ name, profile }): Evidence[] => {
      const told = profile.compensationMvPerCellPerC;
      if (told === undefined) return [];
      return [
        {
          text:
            told === 0
              ? `${name} is set to no compensation.`
              : `${name} is set to ${slopeMv(told)} mV per °C and cell.`,
          decibans: told === 0 ? WEIGHTS.configuredNone : WEIGHTS.configuredSome,
          group: 'told',
          spans: [],
        },
      ];
    }),
  weigh: ({ charging, system }) =>
    charging.flatMap((one): Evidence[] => {
      const name = one.source?.name ?? 'The charger';
      const evidence: Evidence[] = [];
      if (isKnown(one.slope))
        evidence.push({
          text: `${slopeText(name, one.slope)}, where lead asks for −3 to −5.`,
          decibans: shrunk(weightOf(WEIGHTS.slope, inDoubt(one.slope, -2.1)), one.slope.hours),
          group: 'slope',
          spans: [],
        });
      const plateaus = plateausOf(one, system);
      const stages = (plateaus?.stages ?? []).filter((stage) => stage.celsius === stage.celsius);
      if (!plateaus || stages.length < 3 || one.setpoints.voltsPerC < -0.001 * one.bank.cellsInSeries)
        return evidence;
      const off = median(plateaus.stages.map((_, i) => Math.max(plateaus.below[i]!, plateaus.above[i]!)));
      const at25 = expectedVolts(one.bank, 'absorption', 25);
      const held = median(stages.map((stage) => stage.volts));
      const margin = 0.01 * one.bank.cellsInSeries;
      const { absorptionV, compensationMvPerCellPerC: told } = one.source?.profile ?? {};
      const isRightAt25 = off > 20 && held > at25.min - margin && held < at25.max + margin;
      if (
        isRightAt25 &&
        told === 0 &&
        absorptionV !== undefined &&
        Math.abs(held - absorptionV) <= 2 * margin
      )
        evidence.push({
          text: `It is set to ${volts(absorptionV)} at any temperature, and that is what it held.`,
          decibans: WEIGHTS.asSet,
          group: 'as-set',
          spans: [],
        });
      if (isRightAt25)
        evidence.push({
          text: `${name} held ${volts(held)}, which is right at 25 °C, with the battery at ${celsius(median(stages.map((stage) => stage.celsius)))}.`,
          decibans: shrunk(weightOf(WEIGHTS.rightAt25, off), stages.length),
          group: 'right-at-25',
          spans: stages,
        });
      return evidence;
    }),
  missing: (_, evidence) =>
    evidence.some((one) => one.group !== 'told')
      ? []
      : ['plateaus at battery temperatures that differ by 5 °C or more'],
};
