/** A slope that is far too steep or turned round, a sensor that is off, or lithium compensated at all. */

import { median } from '../quantity/numbers';
import { celsius, slopeMv, volts } from '../quantity/text';
import { HOLDS, type Slope } from '../charge/slope';
import type { SourceCharging, Stage } from '../charge/types';
import { expectedVolts, isLead } from '../system/chemistry';
import { goesBy, inDoubt, isKnown, plateausWithHeat, slopeText } from './compensation';
import { topStage } from './plateaus';
import { type Cause, type Evidence, oneIsEnough, shrunk, weightOf } from './cause';
import { compensationRange } from './remedy';

const WEIGHTS = {
  /** How far the slope lies outside what the chemistry asks for, mV per °C and cell. */
  outside: [
    [2, 15],
    [1.4, 12],
    [0.8, 4],
    [0.3, -2],
    [-1e9, -6],
  ],
  /** A slope as it should be and a plateau that is off for the temperature, while the setting is right: mV per cell. */
  sensorOff: [
    [40, 15],
    [25, 14],
    [15, 9],
    [-1e9, 0],
  ],
  /** °C between the temperature that it goes by and the battery's; by one plateau alone it may be the setting. */
  goesBy: [
    [12, 15],
    [8, 11],
    [5, 4],
    [3, -2],
    [0, -6],
  ],
  onePlateau: 0.85,
  /** What it held is what a told slope far too steep makes of the temperature. */
  steepAsConfigured: 9,
  /** Lithium stands off its setting by what a lead profile makes of its temperature. */
  lithiumShift: 14,
  configuredOutside: 7,
  /** Lithium that is set to be compensated at all: no school does that. */
  lithiumConfigured: 13,
} as const;

export const compensationWrong: Cause = {
  code: 'compensation-wrong',
  title: 'Temperature compensation is wrong',
  complaint: 'undercharging',
  chemistries: 'all',
  families: ['charging', 'battery-temperature'],
  needs: 'battery temperature beside the charge voltage over days that differ by 5 °C or more',
  signature:
    'the slope is outside the range; or the plateau is off for the battery’s own temperature; or lithium is compensated',
  prior: { complained: -3, otherwise: -11 },
  weights: WEIGHTS,
  answers: {
    'temperature-sensor': {
      found: 8,
      fine: -3,
      text: 'The charger’s temperature sensor is not on the battery.',
    },
  },
  remedy: ({ bank }) => ({
    text: `Set compensation to ${compensationRange(bank)}, and hold the sensor against a thermometer: it belongs on a battery, away from the charger’s air.`,
    caution: null,
  }),
  tests: {
    'compare-sensor': [
      { name: 'sensor or slope is off', ifHolds: 0.9, ifNot: 0.06 },
      { name: 'both are right', ifHolds: 0.1, ifNot: 0.94 },
    ],
  },
  described: ({ system }) =>
    system.sources.flatMap(({ name, profile }): Evidence[] => {
      const told = profile.compensationMvPerCellPerC;
      const { chemistry } = system.bank;
      if (told === undefined || chemistry === undefined) return [];
      const wrong = isLead(chemistry) ? told < -6.5 || told > 0 : told < 0;
      return wrong
        ? [
            {
              text: `${name} is set to ${slopeMv(told)} mV per °C and cell${isLead(chemistry) ? '' : '; lithium asks for none'}.`,
              decibans: isLead(chemistry) ? WEIGHTS.configuredOutside : WEIGHTS.lithiumConfigured,
              group: 'told',
              spans: [],
            },
          ]
        : [];
    }),
  weigh: ({ charging, bank }) => {
    const each = charging.map((one): Evidence[] => {
      const name = one.source?.name ?? 'The charger';
      const lead = isLead(bank.chemistry);
      const evidence: Evidence[] = [];
      if (isKnown(one.slope) && !restsByItself(one.slope, lead)) {
        const { hours } = one.slope;
        const mvPerCell = inDoubt(one.slope, lead ? -4 : 0);
        // A slope about none is another fault.
        const outside = lead ? Math.max(-6 - mvPerCell, mvPerCell - 1) : Math.abs(mvPerCell) - 1;
        evidence.push({
          text: `${slopeText(name, one.slope)}, where ${lead ? 'lead asks for −3 to −5' : 'lithium asks for none'}.`,
          decibans: mayBeOutside(one.slope, lead)
            ? Math.max(0, shrunk(weightOf(WEIGHTS.outside, outside), hours))
            : shrunk(weightOf(WEIGHTS.outside, outside), hours),
          group: 'slope',
          spans: [],
        });
      }
      const sensor = lead
        ? strongest(sensorElsewhere(one), otherTemperature(one))
        : compensatedLithium(one, charging);
      // A right slope does not clear a sensor that sits in the wrong place, nor the right place a slope that is wrong.
      const outside = evidence.filter((item) => item.decibans > 0);
      if (!sensor) return evidence;
      return outside.length > 0 && sensor.decibans < 0 ? outside : [...outside, sensor];
    });
    return oneIsEnough(each);
  },
  missing: (_, evidence) =>
    evidence.some((one) => one.group !== 'told')
      ? []
      : ['plateaus at battery temperatures that differ by 5 °C or more'],
};

/** V per cell by which two meters may differ. */
const METERS = 0.02;

/** mV per °C and cell by which a slope of lithium is plainly not nil; a smaller one may be its rest. */
const NOT_NIL = 0.8;

/** No charger raises its voltage with the warmth: lithium that stands higher in the warm of the day was charged by then, and rests so. */
const restsByItself = ({ mvPerCell, error }: Slope, lead: boolean): boolean =>
  !lead && mvPerCell - 2 * error > NOT_NIL;

/** A slope that its error would carry plainly outside clears nobody, nor does one of lithium that is plainly not nil. */
const mayBeOutside = ({ mvPerCell, error }: Slope, lead: boolean): boolean =>
  lead
    ? mvPerCell - error < -6.8 || mvPerCell + error > 1.8
    : Math.abs(mvPerCell) + error > 1.8 || Math.abs(mvPerCell) - 2 * error > NOT_NIL;

/** Lithium that stands off its setting as far from 25 °C as a lead profile would put it. */
function compensatedLithium(one: SourceCharging, charging: readonly SourceCharging[]): Evidence | null {
  // Another charger that goes as high holds the bus there.
  const others = charging.filter((other) => other !== one);
  const reach = Math.max(
    -Infinity,
    ...others.flatMap(({ source, setpoints }) => [
      source?.profile.absorptionV ?? -Infinity,
      setpoints.absorption?.volts ?? -Infinity,
    ]),
  );
  const { absorptionV, floatV } = one.source?.profile ?? {};
  for (const [name, told] of [
    ['absorption', absorptionV],
    ['float', floatV],
  ] as const) {
    // A float at which it gives nothing is the battery at rest.
    const plateaus = plateausWithHeat(one, name).filter(
      (stage) => name === 'absorption' || stage.usualSourceAmps > HOLDS * one.bank.capacityAh,
    );
    // Cells shoot up too fast for a plateau: then the tops of the charges say it.
    const tops = name === 'absorption' && plateaus.length < 3 ? topStages(one) : null;
    const stages = tops ?? plateaus;
    if (stages.length < 3 || told === undefined) continue;
    const away = median(stages.map((stage) => stage.celsius)) - 25;
    const held = median(stages.map((stage) => (tops ? stage.topVolts : stage.volts)));
    const shift = (1000 * (held - told)) / one.bank.cellsInSeries;
    const implied = shift / away;
    if (shift > 0 && held < reach + METERS * one.bank.cellsInSeries) continue;
    if (Math.abs(away) < FAR || Math.abs(shift) < 20 || implied > -2 || implied < -9) continue;
    return {
      text: `${one.source!.name} is set to ${volts(told)} for ${name} and held ${volts(held)} with the battery at ${celsius(25 + away)}: as if it were compensated by ${slopeMv(implied)} mV per °C and cell, where lithium asks for none.`,
      decibans: shrunk(WEIGHTS.lithiumShift, stages.length),
      group: 'sensor',
      spans: stages,
    };
  }
  return null;
}

/** The stage of each charge that went highest, where its temperature is known. */
const topStages = ({ charges }: SourceCharging): Stage[] =>
  charges.flatMap((one) => topStage(one) ?? []).filter((one) => one.celsius === one.celsius);

/** mV per °C and cell beyond which no lead battery asks. */
const STEEP = -6.5;

const strongest = (one: Evidence | null, other: Evidence | null): Evidence | null =>
  one && other ? (other.decibans > one.decibans ? other : one) : (one ?? other);

/** A charger that goes by a temperature which is not the battery's. */
function sensorElsewhere(one: SourceCharging): Evidence | null {
  const by = goesBy(one);
  if (!by) return null;
  const { off, both, stages } = by;
  const told = one.source!.profile.compensationMvPerCellPerC;
  if (!isKnown(one.slope) && told !== undefined && told < STEEP)
    return Math.abs(off) < 4
      ? {
          text: `${one.source!.name} held what ${slopeMv(told)} mV per °C and cell gives at the battery’s temperature.`,
          decibans: shrunk(WEIGHTS.steepAsConfigured, stages.length),
          group: 'sensor',
          spans: stages,
        }
      : null;
  const decibans = weightOf(WEIGHTS.goesBy, Math.abs(off)) * (both ? 1 : WEIGHTS.onePlateau);
  return {
    text: `By what it is set to and what it held, ${one.source!.name} goes by a temperature ${Math.abs(off) < 3 ? 'like the battery’s' : `${celsius(Math.abs(off))} ${off > 0 ? 'above' : 'below'} the battery’s${both ? ', at absorption and at float alike' : ''}`}.`,
    decibans: shrunk(decibans, stages.length),
    group: 'sensor',
    spans: decibans > 0 ? stages : [],
  };
}

/** °C from 25 at which a setting and a plateau tell what lies between them. */
const FAR = 6;
/** mV per cell that no temperature makes: a sensor 30 °C off at 5 mV per °C. What lies further off is held by something else. */
const MOST_SHIFT = 150;

/** mV per cell within which absorption and float are off alike: some degrees lie between the two. */
const ALIKE = 30;

/** A voltage that is set right and is off at the battery's temperature: it goes by another temperature, or by a wrong slope. */
function otherTemperature(charging: SourceCharging): Evidence | null {
  const { source, bank } = charging;
  const { absorptionV, floatV } = source?.profile ?? {};
  const cells = bank.cellsInSeries;
  // A temperature moves absorption and float alike; where one of them is off by itself, its setting is.
  const set = [
    ['absorption', absorptionV],
    ['float', floatV],
  ] as const;
  const shifts = set.flatMap(([name, told]) => {
    const volts = plateausWithHeat(charging, name).map((one) => one.volts);
    return told === undefined || volts.length < 3 ? [] : [(1000 * (median(volts) - told)) / cells];
  });
  if (shifts.length === 2 && Math.abs(shifts[0]! - shifts[1]!) > ALIKE) return null;
  for (const [name, told] of set) {
    const at25 = expectedVolts(bank, name, 25);
    const margin = 0.005 * cells;
    if (told === undefined || told < at25.min - margin || told > at25.max + margin) continue;
    const stages = plateausWithHeat(charging, name);
    if (stages.length < 3) continue;
    const off = median(
      stages.map((one) => {
        const { min, max } = expectedVolts(bank, name, one.celsius);
        return (1000 * Math.max(min - one.volts, one.volts - max)) / cells;
      }),
    );
    const heat = median(stages.map((one) => one.celsius));
    const held = median(stages.map((one) => one.volts));
    const shift = (1000 * (held - told)) / cells;
    // At its set voltage in spite of the cold it is not compensated at all: that is another fault.
    if (off <= 15 || Math.abs(shift) < 12 || Math.abs(shift) > MOST_SHIFT) continue;
    const implied =
      Math.abs(heat - 25) >= FAR ? ` That would be ${slopeMv(shift / (heat - 25))} mV per °C and cell.` : '';
    return {
      text: `${source!.name} is set to ${volts(told)} for ${name}, which is right at 25 °C; yet it held ${volts(held)} with the battery at ${celsius(heat)}.${implied} It goes by another temperature than the battery’s, or by a wrong slope.`,
      decibans: shrunk(weightOf(WEIGHTS.sensorOff, off), stages.length),
      group: 'sensor',
      spans: stages,
    };
  }
  return null;
}
