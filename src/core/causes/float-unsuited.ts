/** Float outside what the battery wants: lead starved or gassing, lithium held high. */

import { HOUR } from '../quantity/span';
import { median } from '../quantity/numbers';
import { duration, share, volts } from '../quantity/text';
import { bankOf } from '../system/bankOf';
import { expectedVolts, isLead } from '../system/chemistry';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { floatRange } from './remedy';

const WEIGHTS = {
  /** Float outside its range, mV per cell. */
  outside: [
    [50, 15],
    [30, 13],
    [20, 8],
    [10, -2],
    [-1e9, -12],
  ],
  /** On every charge alike. */
  again: 5,
  /** Told float outside its range, mV per cell. */
  toldOutside: [
    [30, 6],
    [12, 3],
    [-1e9, -3],
  ],
} as const;

/** mV per cell that no float is below where a low one does no harm. */
const NEVER = -1e6;
/** Floats shorter than this have not settled. */
const LEAST = HOUR;
/** What the weather may excuse where no temperature is known, mV per cell. */
const WEATHER_MV = { warm: 30, cold: 60 };

export const floatUnsuited: Cause = {
  code: 'float-unsuited',
  title: 'Float voltage does not suit the battery',
  complaint: 'undercharging',
  chemistries: 'all',
  families: ['charging'],
  needs: 'voltage and current over charges that go on to float; battery temperature for lead',
  signature: 'the float plateau lies outside its range; lithium is held above 13.6 V a 12 V block for hours',
  prior: { complained: -6, otherwise: -7 },
  weights: WEIGHTS,
  caps: { told: 6 },
  remedy: ({ bank, system }) => ({
    text: `Set float to ${floatRange(bank, system)}. Too low, a lead battery loses what it was given; too high, it gasses, and lithium ages at the top.`,
    caution: null,
  }),
  tests: {
    'read-charger-settings': [
      { name: 'the float set is outside the range', ifHolds: 0.85, ifNot: 0.05 },
      { name: 'it is within the range', ifHolds: 0.15, ifNot: 0.95 },
    ],
  },
  described({ system, bank }) {
    if (!bank) return [];
    return system.sources.flatMap(({ name, profile, across }): Evidence[] => {
      if (profile.floatV === undefined) return [];
      const cells = bankOf({ bank }, { across });
      const { min, max } = expectedVolts(cells, 'float', 25);
      const perCell = 1000 / cells.cellsInSeries;
      const above = (profile.floatV - max) * perCell;
      const below = isLead(bank.chemistry) ? (min - profile.floatV) * perCell : NEVER;
      return [
        {
          text: `${name} is set to float at ${volts(profile.floatV)}; the battery wants ${isLead(bank.chemistry) ? `${volts(min)} to ${volts(max)}` : `${volts(max)} at most, or none`}.`,
          decibans: weightOf(WEIGHTS.toldOutside, Math.max(above, below)),
          group: 'told',
          spans: [],
        },
      ];
    });
  },
  weigh: ({ charging }) =>
    charging.flatMap(({ source, charges, bank }): Evidence[] => {
      const floats = charges
        .flatMap((one) => one.stages)
        .filter(
          (one) =>
            one.stage === 'float' &&
            one.heldMs >= LEAST &&
            one.usualSourceAmps > 0 &&
            one.volts === one.volts,
        );
      if (floats.length === 0) return [];
      const lead = isLead(bank.chemistry);
      const perCell = 1000 / bank.cellsInSeries;
      const outside = floats.map((one) => {
        const { min, max } = expectedVolts(bank, 'float', one.celsius);
        const unsure = lead && one.celsius !== one.celsius;
        const above = (one.volts - max) * perCell - (unsure ? WEATHER_MV.cold : 0);
        // Lithium needs no float: a low one only lets the source carry the loads later.
        const below = lead ? (min - one.volts) * perCell - (unsure ? WEATHER_MV.warm : 0) : NEVER;
        return { above, below };
      });
      const high = median(outside.map((one) => one.above));
      const low = median(outside.map((one) => one.below));
      const off = Math.max(high, low);
      const { min, max } = expectedVolts(bank, 'float', median(floats.map((one) => one.celsius)));
      // Set right, and off only at this temperature: rather a matter of compensation.
      const told = source?.profile.floatV;
      const at25 = expectedVolts(bank, 'float', 25);
      const far = Math.abs(median(floats.map((one) => one.celsius)) - 25) > 8;
      const toldRight = lead && far && told !== undefined && told >= at25.min && told <= at25.max;
      const hours = floats.reduce((total, one) => total + one.heldMs, 0);
      const evidence: Evidence[] = [
        {
          text: `${source?.name ?? 'The charger'} floated at ${volts(median(floats.map((one) => one.volts)))} for ${duration(hours)} in all, where the battery wants ${lead ? `${volts(min)} to ${volts(max)}` : `${volts(max)} at most`}.${off > 20 ? (high > low ? (lead ? ' It gasses and dries.' : ' It keeps a full lithium battery creeping up.') : ' It is not kept full.') : ''}`,
          decibans: Math.round(
            shrunk(weightOf(WEIGHTS.outside, off), floats.length + hours / (24 * HOUR)) *
              (toldRight && off > 0 ? 0.5 : 1),
          ),
          group: 'float',
          spans: off > 10 ? floats : [],
        },
      ];
      if (off > 20 && floats.length >= 3)
        evidence.push({
          text: `It was so on ${share(outside.filter((one) => Math.max(one.above, one.below) > 10).length, floats.length, 'float')}.`,
          decibans: WEIGHTS.again,
          group: 'again',
          spans: [],
        });
      return evidence;
    }),
  missing: ({ charging }, evidence) =>
    charging.length > 0 && !evidence.some((one) => one.group === 'float')
      ? ['a charge that goes on to float']
      : [],
};
