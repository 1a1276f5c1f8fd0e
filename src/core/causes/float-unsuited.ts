/** Float outside what the battery wants: lead starved or gassing, lithium held high. */

import { HOUR } from '../quantity/span';
import { median } from '../quantity/numbers';
import { celsius, duration, share, volts } from '../quantity/text';
import { bankOf } from '../system/bankOf';
import { expectedVolts, isLead } from '../system/chemistry';
import { celsiusBySetting } from '../charge/bySetting';
import { settingsOf } from '../charge/setAlike';
import type { SourceCharging, Stage } from '../charge/types';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { floatRange } from './remedy';

const WEIGHTS = {
  /** Float outside its range, mV per cell. */
  outside: [
    [50, 15],
    [30, 13],
    [20, 8],
    [15, 0],
    [10, -2],
    [0, -5],
    [-1e9, -12],
  ],
  /** On every charge alike. */
  again: 5,
  /** Configured float outside its range, mV per cell. */
  configuredOutside: [
    [30, 6],
    [12, 3],
    [-1e9, -3],
  ],
} as const;

/** mV per cell that no float is below where a low one does no harm. */
const NEVER = -1e6;
/** Part of the capacity, A per Ah, that leaves a battery on float at most, by the zero of its meter. */
const AT_REST = 0.001;
/** Floats shorter than this have not settled. */
const LEAST = HOUR;
/** What the weather may excuse where no temperature is known, mV per cell. */
const WEATHER_MV = { warm: 30, cold: 60 };

/** The battery gives more than the source, A: its voltage comes down by itself, and nobody holds it there. */
const isLetGo = ({ endAmpsAreBattery, settledAmps, usualSourceAmps }: Stage, least: number): boolean =>
  endAmpsAreBattery && settledAmps < -least && usualSourceAmps < -settledAmps;

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
          decibans: weightOf(WEIGHTS.configuredOutside, Math.max(above, below)),
          group: 'told',
          spans: [],
        },
      ];
    });
  },
  weigh: ({ charging }) =>
    charging.flatMap((seen): Evidence[] => {
      const { source, charges, bank } = seen;
      const floats = charges
        .flatMap(({ stages }) => stages.filter((one, i) => isSettled(one, stages.slice(0, i))))
        .filter(
          (one) =>
            one.stage === 'float' &&
            one.heldMs >= LEAST &&
            // Seen through the battery alone, a source that floats it leaves it at rest.
            one.usualSourceAmps > (seen.knowsOwnAmps ? 0 : -AT_REST * bank.capacityAh) &&
            !isLetGo(one, AT_REST * bank.capacityAh) &&
            one.volts === one.volts,
        );
      if (floats.length === 0) return [];
      const lead = isLead(bank.chemistry);
      const perCell = 1000 / bank.cellsInSeries;
      // Where no temperature was logged, settings and what was held of them tell one; else the weather excuses much.
      const told = celsiusConfigured(seen);
      const logged = median(floats.map((one) => one.celsius));
      const { floatV } = settingsOf(seen);
      const at25 = expectedVolts(bank, 'float', 25);
      // Held as it is set, by the temperature that was logged: the setting itself is judged, at 25 °C.
      const byFloat = celsiusBySetting(seen, 'float');
      const asSet = byFloat !== null && Math.abs(byFloat - logged) <= SAME_HEAT;
      const absorbed = weatherByAbsorption(seen);
      const setAbove = floatV === undefined ? NEVER : (floatV - at25.max) * perCell;
      const setBelow = floatV === undefined ? NEVER : (at25.min - floatV) * perCell;
      const outside = floats.map((one) => {
        const unsure = lead && one.celsius !== one.celsius;
        const { min, max } = expectedVolts(bank, 'float', unsure ? (told ?? NaN) : one.celsius);
        const excused = unsure && told === null;
        const above = (one.volts - max) * perCell;
        // Lithium needs no float: a low one only lets the source carry the loads later.
        const below = lead ? (min - one.volts) * perCell : NEVER;
        if (lead && asSet)
          return {
            above: Math.max(above, (floatV! - at25.max) * perCell),
            below: Math.max(below, (at25.min - floatV!) * perCell),
          };
        if (!excused) return { above, below };
        return {
          above: excusedBy(above, Math.min(WEATHER_MV.cold, absorbed.cold), setAbove),
          below: excusedBy(below, Math.min(WEATHER_MV.warm, absorbed.warm), setBelow),
        };
      });
      const high = median(outside.map((one) => one.above));
      const low = median(outside.map((one) => one.below));
      const off = Math.max(high, low);
      const byConfigured = lead && logged !== logged && told !== null;
      const { min, max } = expectedVolts(bank, 'float', byConfigured ? told : logged);
      // Set right, and off only at this temperature: rather a matter of compensation.
      const far = Math.abs(logged - 25) > 8;
      const configuredRight = lead && far && floatV !== undefined && floatV >= at25.min && floatV <= at25.max;
      const hours = floats.reduce((total, one) => total + one.heldMs, 0);
      const evidence: Evidence[] = [
        {
          text: `${source?.name ?? 'The charger'} floated at ${volts(median(floats.map((one) => one.volts)))} for ${duration(hours)} in all, where the battery wants ${lead ? `${volts(min)} to ${volts(max)}` : `${volts(max)} at most`}${byConfigured ? ` at ${celsius(told)}, going by its settings` : ''}.${off > 20 ? (high > low ? (lead ? ' It gasses and dries.' : ' It keeps a full lithium battery creeping up.') : ' It is not kept full.') : ''}`,
          decibans: Math.round(
            shrunk(weightOf(WEIGHTS.outside, off), floats.length + hours / (24 * HOUR)) *
              (configuredRight && off > 0 ? 0.5 : 1),
          ),
          group: 'float',
          spans: off > 10 ? floats : [],
        },
      ];
      const often = floats.length >= 3;
      if (off > 20 && (often || hours >= ON_END))
        evidence.push({
          text: often
            ? `It was so on ${share(outside.filter((one) => Math.max(one.above, one.below) > 10).length, floats.length, 'float')}.`
            : 'It was so for days on end.',
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

/** A float that never ends tells in so long as much as several do. */
const ON_END = 72 * HOUR;

/** A float that no absorption came before may be a supply that stands still for a while; for so long none does. */
const STANDS_STILL = 3 * HOUR;

const isSettled = ({ heldMs }: Stage, before: readonly Stage[]): boolean =>
  heldMs >= STANDS_STILL || before.some(({ stage }) => stage !== 'bulk' && stage !== 'off');

/** °C by which two settings may tell different temperatures. */
const SAME_HEAT = 5;

/** The temperature that absorption and float tell by what they are set to and what was held; null where they tell none, or not the same. */
function celsiusConfigured(seen: SourceCharging): number | null {
  const byFloat = celsiusBySetting(seen, 'float');
  const byAbsorption = celsiusBySetting(seen, 'absorption');
  if (byFloat === null) return byAbsorption;
  return byAbsorption === null || Math.abs(byFloat - byAbsorption) <= SAME_HEAT ? byFloat : null;
}

/**
 * mV per cell outside the range of which the weather may excuse some: what lies between says nothing, neither for nor against. Where the
 * setting itself is out on that side, the weather is no excuse.
 * @param set by how much the setting is
 */
const excusedBy = (outside: number, excused: number, set: number): number =>
  outside <= 0 ? outside : Math.max(NOTHING, Math.min(outside, set), outside - excused);
/** mV per cell outside the range whose band weighs nothing. */
const NOTHING = 15;

/** mV per cell by which absorption may differ from what the battery asks for though it is set right. */
const AMPLE = 12;

/** mV per cell that the weather can excuse by where absorption stands: colder, or warmer, it would be out of its own range. */
function weatherByAbsorption({ setpoints, bank }: SourceCharging): { cold: number; warm: number } {
  const volts = setpoints.absorption?.volts;
  if (volts === undefined) return { cold: Infinity, warm: Infinity };
  const { min, max } = expectedVolts(bank, 'absorption', 25);
  const perCell = 1000 / bank.cellsInSeries;
  return {
    cold: Math.max(0, (volts - min) * perCell) + AMPLE,
    warm: Math.max(0, (max - volts) * perCell) + AMPLE,
  };
}
