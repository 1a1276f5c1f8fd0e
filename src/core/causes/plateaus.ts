/** The plateaus of absorption that a source held, against what the battery asks for at their temperature. */

import { median, robustDeviation } from '../quantity/numbers';
import { celsius, share, volts } from '../quantity/text';
import { blocksInSeries, expectedVolts, isLead, type Range } from '../system/chemistry';
import { bankOf } from '../system/bankOf';
import { celsiusAt } from '../system/climate';
import type { System } from '../system/schema';
import { celsiusBySetting, LEAST_HELD } from '../charge/bySetting';
import { settingsOf } from '../charge/setAlike';
import type { Charge, SourceCharging, Stage } from '../charge/types';
import { type Bands, type Evidence, type Observations, shrunk, weightOf } from './cause';

export interface Plateaus {
  stages: Stage[];
  /** mV per cell by which each lies below the range, and above it; negative within it. */
  below: number[];
  above: number[];
  /** "Charger held 14.10 V at 12 °C, where the battery asks for 14.40 V to 14.80 V". */
  text: string;
}

/** With no temperature known a plateau may lie lower for a warm battery, and higher for a cold one, by so much, mV per cell. */
const WARMER_MV = 30;
export const COLDER_MV = 75;

/** °C by which a temperature that only the float tells may be off. */
const FLOAT_TELLS = 5;
/** The stage of a charge that went highest; null of a charge whose voltage is not known. */
export const topStage = ({ stages }: Pick<Charge, 'stages'>): Stage | null =>
  stages.reduce<Stage | null>(
    (top, one) => (Number.isFinite(one.topVolts) && !(top && top.topVolts >= one.topVolts) ? one : top),
    null,
  );

/** The higher of the charger's and the battery's voltage: a drop between the two is a fault of the path, not of the setting. */
const heldVolts = (stage: Stage): number =>
  stage.batteryVolts === stage.batteryVolts ? Math.max(stage.volts, stage.batteryVolts) : stage.volts;

/** V a 12 V block by which bulk goes beyond what is no setting; in so many charges, and this part of them, it is no accident. */
const EXCEEDED = { volts: 0.25, charges: 3, part: 0.3 };

/**
 * Whether a voltage that was held may be what the source is set to. In bulk it holds nothing back: what it takes the battery to is under its
 * setting, and what stood still further down was a flat curve, or a sun that gave no more.
 */
function isNotExceeded({ charges, bank }: SourceCharging): (stage: Stage) => boolean {
  const tops = charges
    .flatMap(({ stages }) => stages.filter((one) => one.stage === 'bulk'))
    .map((one) => one.topVolts + (one.volts25 - one.volts || 0));
  const enough = Math.max(EXCEEDED.charges, EXCEEDED.part * charges.length);
  const over = EXCEEDED.volts * blocksInSeries(bank);
  return ({ volts, volts25 }) => {
    const held = volts25 === volts25 ? volts25 : volts;
    return tops.filter((top) => top >= held + over).length < enough;
  };
}

/** V up to which a charger goes by its setting at the least: where it is not seen which of them charges, the lowest; NaN where one is not known. */
export function leastSetting({ source }: SourceCharging, { sources }: Pick<System, 'sources'>): number {
  const set = (source ? [source] : sources).map(({ profile }) => profile.absorptionV ?? NaN);
  return set.length > 0 ? Math.min(...set) : NaN;
}

/**
 * Null where nothing was held for long enough.
 * @param side on which they are held against the range: what the battery came down to while its BMS let nothing in is no setting, but for
 * what lies above the range even so
 */
export function plateausOf(one: SourceCharging, system: System, side: Side = 'above'): Plateaus | null {
  const { source, charges, bank } = one;
  const stages = charges
    .flatMap((charge) => charge.stages)
    .filter((one) => one.stage === 'absorption' && one.heldMs >= LEAST_HELD && one.volts === one.volts)
    .filter(
      (stage) =>
        !stage.blocked ||
        (side === 'above' && stage.volts > expectedVolts(bank, 'absorption', stage.celsius).max),
    )
    .filter(isNotExceeded(one));
  if (stages.length === 0) return null;
  const perCell = 1000 / bank.cellsInSeries;
  const byFloat = celsiusBySetting(one, 'float');
  const byAbsorption = celsiusBySetting(one, 'absorption');
  const setV = settingsOf(one).absorptionV;
  // Held as it is set, by the temperature that was logged or that the float tells: the setting itself is judged, at 25 °C.
  const logged = median(stages.map((one) => one.celsius));
  const heat = logged === logged ? logged : byFloat;
  // Where none tells, a setting that is itself below the range may.
  const bySeason = heat === null ? (stages[0]!.impliedC ?? null) : null;
  const isAsSet =
    bySeason !== null ||
    (heat !== null && byAbsorption !== null && Math.abs(heat - byAbsorption) <= FLOAT_TELLS);
  const asSet = isAsSet ? median(stages.map(heldVolts)) - setV! : null;
  const implied = logged === logged ? null : (bySeason ?? (isAsSet ? byAbsorption : null));
  const rangeOf = (stage: Stage): Range => {
    if (asSet !== null) {
      const shift = stage.celsius === stage.celsius ? heldVolts(stage) - setV! : asSet;
      return { min: bank.chargeVolts.min + shift, max: bank.chargeVolts.max + shift };
    }
    if (stage.celsius === stage.celsius || !isLead(bank.chemistry))
      return expectedVolts(bank, 'absorption', stage.celsius);
    // A float that is set and held says how warm the charger takes the battery to be.
    if (byFloat !== null)
      return {
        min: expectedVolts(bank, 'absorption', byFloat + FLOAT_TELLS).min,
        max: expectedVolts(bank, 'absorption', byFloat - FLOAT_TELLS).max,
      };
    // Of the temperatures that the place can have, each verdict gets the one that excuses most.
    const { min: coldest, max: warmest } = celsiusAt(system, stage.from);
    const usual = expectedVolts(bank, 'absorption', NaN);
    // Where the setting itself is above the range, the weather is no excuse: what is held beyond it may be the cold.
    const out = leastSetting(one, system) - usual.max;
    const max =
      out > 10 / perCell
        ? Math.max(usual.max, stage.volts - out)
        : coldest === undefined
          ? usual.max + COLDER_MV / perCell
          : expectedVolts(bank, 'absorption', coldest).max;
    return {
      min:
        warmest === undefined
          ? usual.min - WARMER_MV / perCell
          : expectedVolts(bank, 'absorption', warmest).min,
      max,
    };
  };
  const ranges = stages.map(rangeOf);
  const temperature = median(stages.map((one) => one.celsius));
  const at =
    temperature === temperature
      ? `at ${celsius(temperature)}`
      : implied !== null
        ? `as it does at ${celsius(implied)} by its setting`
        : 'with the temperature not logged';
  const asked = expectedVolts(bank, 'absorption', implied ?? temperature);
  return {
    stages,
    below: stages.map((one, i) => (ranges[i]!.min - heldVolts(one)) * perCell),
    above: stages.map((one, i) => (one.volts - ranges[i]!.max) * perCell),
    text: `${source?.name ?? 'The charger'} held ${volts(median(stages.map(heldVolts)))} ${at}, where the battery asks for ${volts(asked.min)} to ${volts(asked.max)}`,
  };
}

/** On which side of the range a cause says that the charge voltage lies. */
type Side = 'below' | 'above';

interface SideWeights {
  /** By mV per cell outside the range: of a plateau, and of what was told. */
  plateau: Bands;
  told: Bands;
  /** The same on every charge, so no accident of one day. */
  repeats: number;
  /** mV per cell from which a plateau counts as outside. */
  outside: number;
}

/** What the charge voltages that were told say for a side. What was measured outweighs what was configured. */
export function weighConfigured(
  { system, bank, charging }: Observations,
  side: Side,
  weights: Omit<SideWeights, 'plateau'>,
): Evidence[] {
  if (!bank) return [];
  const measured = charging.some(
    (one) => median(plateausOf(one, system, side)?.[side] ?? []) > weights.outside,
  );
  return system.sources.flatMap((source): Evidence[] => {
    const { absorptionV } = source.profile;
    if (absorptionV === undefined) return [];
    const { chargeVolts, cellsInSeries } = bankOf({ bank }, source);
    const off = side === 'below' ? chargeVolts.min - absorptionV : absorptionV - chargeVolts.max;
    const decibans = weightOf(weights.told, (1000 * off) / cellsInSeries);
    const differs = measured && decibans < 0;
    return [
      {
        text: `${source.name} is set to ${volts(absorptionV)} at 25 °C; the battery asks for ${volts(chargeVolts.min)} to ${volts(chargeVolts.max)}.${differs ? ` What it delivers is ${side === 'below' ? 'less' : 'more'} than it shows: measure at its terminals.` : ''}`,
        decibans: differs ? 0 : decibans,
        group: 'told',
        spans: [],
      },
    ];
  });
}

/** What the plateaus of a source say for a side. */
export function weighPlateaus(
  one: SourceCharging,
  system: System,
  side: Side,
  weights: SideWeights,
): Evidence[] {
  const plateaus = plateausOf(one, system, side);
  if (!plateaus) return [];
  const { stages, text } = plateaus;
  const off = plateaus[side];
  const usual = median(off);
  const outside = stages.filter((_, i) => off[i]! > 8);
  const evidence: Evidence[] = [
    {
      text: `${text}; it was ${side} in ${share(outside.length, stages.length, 'plateau')}.`,
      decibans: shrunk(weightOf(weights.plateau, usual), stages.length),
      group: 'plateau',
      spans: usual > 8 ? outside : stages,
    },
  ];
  const spread = robustDeviation(off);
  if (usual > weights.outside && stages.length >= 3 && spread < Math.max(8, 0.3 * usual))
    evidence.push({
      text: `It did so on every charge alike: the plateaus differ by no more than ${volts((2 * spread * one.bank.cellsInSeries) / 1000)} once temperature is taken out.`,
      decibans: weights.repeats,
      group: 'repeats',
      spans: [],
    });
  return evidence;
}
