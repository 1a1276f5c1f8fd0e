/** The charge voltage is below what the battery asks for at its temperature. */

import { isNumber, median } from '../quantity/numbers';
import { DAY, HOUR, lengthOf } from '../quantity/span';
import { celsius, counted, share, volts } from '../quantity/text';
import { blocksInSeries, expectedVolts, isLead } from '../system/chemistry';
import { celsiusBySetting } from '../charge/bySetting';
import { settingsOf } from '../charge/setAlike';
import type { Charge, SourceCharging, Stage } from '../charge/types';
import { isConstant } from '../charge/view';
import type { KnownBank } from '../system/known';
import { type Bands, type Cause, type Evidence, shrunk, speaksFor, weightOf } from './cause';
import { goesBy, plateausWithHeat } from './compensation';
import { weighPlateaus, weighConfigured } from './plateaus';
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
  /** No charger is set so far off: something else stands still there. */
  farBelow: 5,
  /** The same on every charge, so no accident of one day. */
  plateauRepeats: 6,
  /** It would be right at 25 °C, far from which the battery is: what is missing is the temperature's part. */
  rightAt25: -8,
  /** It goes by another temperature than the battery's, at absorption and float alike. */
  otherTemperature: -8,
  /** Configured charge voltage below the range, mV per cell. */
  configuredBelow: [
    [25, 7],
    [8, 4],
    [-1e9, -3],
  ],
  /** No plateau shows, but no charge went higher than what is set too low. */
  topAsConfigured: 9,
} as const;

/** mV per cell below the range that no charger is set to: 13.4 V for a 12 V lead battery, 13.5 V for lithium. */
const FAR_BELOW = { lead: 130, lithium: 160 };
const plateauBelow = (bank: Pick<KnownBank, 'chemistry'>): Bands => [
  [isLead(bank.chemistry) ? FAR_BELOW.lead : FAR_BELOW.lithium, WEIGHTS.farBelow],
  ...WEIGHTS.plateauBelow,
];

const SIDE = {
  told: WEIGHTS.configuredBelow,
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
  described: (seen) => weighConfigured(seen, 'below', SIDE),
  weigh: ({ charging, system }) =>
    charging.flatMap((one) => {
      const evidence = weighPlateaus(one, system, 'below', { ...SIDE, plateau: plateauBelow(one.bank) });
      // Plateaus of lithium are short: where the charges stop says more than one of them.
      if (!isLead(one.bank.chemistry)) {
        const stops = stopsBelow(one);
        if (stops.length > 0 && (evidence.length === 0 || sumOf(stops) > sumOf(evidence))) return stops;
      }
      if (evidence.length === 0) return topAsSet(one);
      return speaksFor(evidence) ? [...evidence, ...byTemperature(one)] : evidence;
    }),
  missing: (seen, evidence) =>
    seen.charging.length > 0 && !evidence.some((one) => one.group === 'plateau')
      ? ['a charge that reaches a held voltage']
      : [],
};

const sumOf = (evidence: readonly Evidence[]): number =>
  evidence.reduce((total, one) => total + one.decibans, 0);

/** °C from which a temperature, rather than the setting, makes a plateau low. */
const FAR = 8;

/** What speaks for a temperature that is not followed, or not the battery's, instead of a setting that is too low. */
function byTemperature(one: SourceCharging): Evidence[] {
  const stages = plateausWithHeat(one, 'absorption');
  if (stages.length < 3) return [];
  const heat = median(stages.map((stage) => stage.celsius));
  const by = goesBy(one);
  if (by?.both && by.off > FAR)
    return [
      {
        text: `It goes by a temperature ${celsius(by.off)} above the battery’s, at absorption and at float alike: the setting itself is right.`,
        decibans: WEIGHTS.otherTemperature,
        group: 'temperature',
        spans: [],
      },
    ];
  const held = median(stages.map((stage) => stage.volts));
  if (heat < 25 - FAR && held >= expectedVolts(one.bank, 'absorption', 25).min)
    return [
      {
        text: `At 25 °C it would be right, but the battery was at ${celsius(heat)}: the part for the temperature is missing.`,
        decibans: WEIGHTS.rightAt25,
        group: 'temperature',
        spans: [],
      },
    ];
  return [];
}

/** Tops of charges that differ by no more are the same, V a 12 V block; and so many of the charges end there. */
const SAME_TOP = 0.05;
const MOSTLY = 0.7;
/** Current in parts of the most in bulk, that only a held voltage leaves of a source that gives evenly. */
const FALLEN = 0.5;

const topOf = ({ stages }: Charge): number => Math.max(...stages.map((one) => one.topVolts));

/** V a 12 V block by which the top of charges may miss what is set: a little is lost on the way, and meters differ; °C that compensation may add. */
const TOP = { under: 0.12, over: 0.05, colder: 10 };

/**
 * A voltage that is set too low and that the charges come up to and never pass, however short they stand there: at the temperature by
 * which the charger goes, where its float tells that.
 */
function topAsSet(one: SourceCharging): Evidence[] {
  const { source, charges, bank } = one;
  const { absorptionV: told, compensationMvPerCellPerC: slope } = settingsOf(one);
  const blocks = blocksInSeries(bank);
  if (told === undefined || (1000 * (bank.chargeVolts.min - told)) / bank.cellsInSeries < SIDE.outside)
    return [];
  const perC = (Math.abs(slope ?? 0) * bank.cellsInSeries) / 1000;
  const by = charges.some(({ stages }) => stages.some((stage) => isNumber(stage.celsius)))
    ? null
    : celsiusBySetting(one, 'float');
  const set = by === null ? told : told + perC * (25 - by);
  const asks = by === null ? bank.chargeVolts.min : expectedVolts(bank, 'absorption', by).min;
  const over = TOP.over * blocks + (by === null ? TOP.colder * perC : 0);
  const there = charges.filter((charge) => topOf(charge) >= set - TOP.under * blocks);
  if (there.length < 3 || there.some((charge) => topOf(charge) > set + over)) return [];
  return [
    {
      text: `${counted(there.length, 'charge')} came up to ${volts(median(there.map(topOf)))}, about what ${source?.name ?? 'each charger'} is set to${by === null ? '' : ` at ${celsius(by)}, the temperature that its float shows`}, and none went higher; the battery asks for ${volts(asks)} at least.`,
      decibans: shrunk(WEIGHTS.topAsConfigured, there.length),
      group: 'top',
      spans: there,
    },
  ];
}

/** A charger that stops lithium at a voltage where it is far from its range: the plateau may be too short to be seen as one. */
function stopsBelow({ source, charges, bank, bulkAmps }: SourceCharging): Evidence[] {
  const highest = new Map<number, (typeof charges)[number]>();
  for (const one of charges.filter((one) => lengthOf(one) > HOUR)) {
    const day = Math.floor(one.from / DAY);
    if (!(topOf(highest.get(day) ?? one) > topOf(one))) highest.set(day, one);
  }
  const long = [...highest.values()];
  const top = median(long.map(topOf));
  const same = SAME_TOP * blocksInSeries(bank);
  // It goes down to float by itself, or its current has fallen at that voltage; a charge that the night ends has nothing to say.
  const endsItself = (stage: Stage): boolean =>
    (stage.stage === 'float' && stage.heldMs > HOUR) ||
    // The sun gives less of itself each evening.
    (isConstant(source?.kind) &&
      stage.stage === 'bulk' &&
      stage.endSourceAmps > 0 &&
      stage.endSourceAmps < FALLEN * bulkAmps);
  const stopped = long.filter((one) => Math.abs(topOf(one) - top) <= same && one.stages.some(endsItself));
  if (
    stopped.length < 3 ||
    stopped.length < MOSTLY * long.length ||
    // A short one that went higher shows what it is set to.
    charges.some((one) => topOf(one) > top + same)
  )
    return [];
  const below = (1000 * (bank.chargeVolts.min - top)) / bank.cellsInSeries;
  const evidence: Evidence[] = [
    {
      text: `${source?.name ?? 'The charger'} went up to ${volts(top)} and stopped there in ${share(stopped.length, long.length, 'charge')}, never higher; the battery asks for ${volts(bank.chargeVolts.min)} at least.`,
      decibans: shrunk(weightOf(plateauBelow(bank), below), stopped.length),
      group: 'plateau',
      spans: below > 8 ? stopped : [],
    },
  ];
  if (below > SIDE.outside)
    evidence.push({
      text: `So it was on ${counted(stopped.length, 'charge')}, within ${volts(same)}.`,
      decibans: shrunk(WEIGHTS.plateauRepeats, stopped.length),
      group: 'repeats',
      spans: [],
    });
  return evidence;
}
