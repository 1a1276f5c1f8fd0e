/** The charge voltage is above what the battery takes: lead gasses and dries, the BMS of a lithium battery stops the charge. */

import { median } from '../quantity/numbers';
import { DAY } from '../quantity/span';
import { celsius, counted, share, volts } from '../quantity/text';
import {
  type Cause,
  type Evidence,
  type Observations,
  oneIsEnough,
  shrunk,
  speaksFor,
  weightOf,
} from './cause';
import { goesBy } from './compensation';
import { COLDER_MV, leastSetting, plateausOf, topStage, weighPlateaus, weighConfigured } from './plateaus';
import type { Charge, SourceCharging, Stage } from '../charge/types';
import { blocksInSeries, expectedVolts, isLead } from '../system/chemistry';
import { chargeRange, GAS } from './remedy';
import type { KnownBank } from '../system/known';

const WEIGHTS = {
  /** Plateau above the battery's range, mV per cell. */
  plateauAbove: [
    [50, 15],
    [30, 13],
    [18, 7],
    [8, -2],
    [-1e9, -12],
  ],
  plateauRepeats: 6,
  /** Highest voltage of a lithium charge above the range, mV per cell: its cells shoot up too fast for a plateau. */
  topAbove: [
    [40, 15],
    [25, 12],
    [12, 5],
    [-1e9, -8],
  ],
  /** It is set far higher, and something stops each charge within the range. */
  stoppedBelowSetting: 13,
  /** Set right at 25 °C, it goes by a temperature far below the battery's. */
  otherTemperature: -8,
  /** Configured charge voltage above the range, mV per cell. */
  configuredAbove: [
    [30, 7],
    [10, 4],
    [-1e9, -3],
  ],
  /** The BMS stops the charge with all cells high together. */
  bmsStops: 13,
} as const;

const SIDE = {
  plateau: WEIGHTS.plateauAbove,
  told: WEIGHTS.configuredAbove,
  repeats: WEIGHTS.plateauRepeats,
  outside: 18,
};

/** Cells that stand within this of each other are high together, V. */
const TOGETHER = 0.06;

export const chargeVoltageHigh: Cause = {
  code: 'charge-voltage-high',
  title: 'Charge voltage is too high for this battery',
  complaint: 'undercharging',
  chemistries: 'all',
  families: ['charging'],
  needs:
    'voltage and current of the charger or the battery over charges that reach a plateau; battery temperature, or the log of the BMS',
  signature:
    'the plateau lies, at its temperature, above the range; or the BMS stops the charge with all cells high',
  prior: { complained: -7, otherwise: -10 },
  weights: WEIGHTS,
  caps: { told: 7 },
  remedy: ({ bank, system }) => ({
    text: `Lower the absorption voltage into ${chargeRange(bank, system)} and check it with a meter at the posts. Above it lead gasses and dries out, and the BMS of lithium opens.`,
    caution: GAS,
  }),
  onSite: { 'charged-too-high': 8 },
  tests: {
    'read-charger-settings': [
      { name: 'the charge voltage set is above the range', ifHolds: 0.8, ifNot: 0.04 },
      { name: 'it is within the range', ifHolds: 0.2, ifNot: 0.96 },
    ],
    'meter-at-terminals': [
      { name: 'above the range while absorbing', ifHolds: 0.93, ifNot: 0.05 },
      { name: 'within the range', ifHolds: 0.07, ifNot: 0.95 },
    ],
  },
  described: (seen) => weighConfigured(seen, 'above', SIDE),
  weigh: ({ charging, system, refusals, bank }) => {
    const high = highTogether(refusals ?? [], bank, highestSetting(system));
    const tops = charging
      .filter((one) => plateausOf(one, system) === null)
      .map((one) => topOfCharges(one, leastSetting(one, system)));
    return [
      ...oneIsEnough(
        charging.map((one) => {
          const evidence = weighPlateaus(one, system, 'above', SIDE);
          return speaksFor(evidence) ? [...evidence, ...byTemperature(one)] : evidence;
        }),
      ),
      // What its BMS cuts off is over before a slow log has seen how high it went.
      ...oneIsEnough(high.length > 0 ? tops.filter(speaksFor) : tops),
      ...high,
    ];
  },
  missing: (seen, evidence) =>
    seen.charging.length > 0 && !evidence.some((one) => one.group === 'plateau' || one.group === 'bms')
      ? ['a charge that reaches a held voltage']
      : [],
};

/**
 * Where a BMS stops the charges of a charger that is set too high: within the range, for a slow log does not see how high it went, or V a
 * 12 V block over it; V a 12 V block and more under what the charger is set to, and on this part of the charges.
 */
const STOPPED = { over: 0.1, under: 0.3, mostly: 0.6 };

/** V a 12 V block under the battery's range from which a charge is on its way up to it. */
const BROUGHT_UP = 0.4;

/** Where no plateau is long enough to judge, how high the charges went. */
function topOfCharges({ source, charges, bank }: SourceCharging, setV: number): Evidence[] {
  const lead = isLead(bank.chemistry);
  const overBy = (top: Stage): number => {
    const known = top.celsius === top.celsius || !lead;
    const slack = known ? 0 : (COLDER_MV * bank.cellsInSeries) / 1000;
    return top.topVolts - expectedVolts(bank, 'absorption', top.celsius).max - slack;
  };
  // A charger that is never off goes up once a day.
  const spells = charges.length > 1 ? charges : byDay(charges);
  // Lithium that is only kept, and not brought up, says nothing.
  const goesUp = (top: Stage) =>
    lead || top.topVolts >= bank.chargeVolts.min - BROUGHT_UP * blocksInSeries(bank);
  const tops = spells.flatMap((one) => topStage(one) ?? []).filter(goesUp);
  const heights = tops.map(overBy);
  const usual = median(heights);
  if (heights.length < 2 || !Number.isFinite(usual)) return [];
  const above = (1000 * usual) / bank.cellsInSeries;
  // Lead that is not brought so high by all that its charger has says nothing of the setting.
  if (lead && above < 12) return [];
  const stopped = lead ? [] : stoppedBelowSetting(tops, heights, { source, bank }, setV);
  if (stopped.length > 0) return stopped;
  const over = tops.filter((_, i) => heights[i]! > 0);
  const wentTo = median(tops.map((one) => one.topVolts));
  return [
    {
      text: `Charges of ${source?.name ?? 'the charger'} went up to ${volts(wentTo)}; the battery takes ${volts(wentTo - usual)} at most. It was above in ${share(over.length, tops.length, 'charge')}.`,
      decibans: shrunk(weightOf(WEIGHTS.topAbove, above), heights.length),
      group: 'plateau',
      spans: above > 8 ? over : [],
    },
    ...(above > 12 && over.length >= 3 && over.length >= 0.8 * tops.length
      ? [
          {
            text: 'So it was on nearly every charge.',
            decibans: WEIGHTS.plateauRepeats,
            group: 'repeats',
            spans: [],
          },
        ]
      : []),
  ];
}

/** Nothing but its BMS opens lithium that is charged under what the charger is set to. @param heights V over the range, of each */
function stoppedBelowSetting(
  tops: readonly Stage[],
  heights: readonly number[],
  { source, bank }: Pick<SourceCharging, 'source' | 'bank'>,
  setV: number,
): Evidence[] {
  const blocks = blocksInSeries(bank);
  const stopped = tops.filter(
    ({ topVolts }, i) =>
      topVolts >= bank.chargeVolts.min &&
      heights[i]! <= STOPPED.over * blocks &&
      topVolts < setV - STOPPED.under * blocks,
  );
  if (stopped.length < 3 || stopped.length < STOPPED.mostly * tops.length) return [];
  return [
    {
      text: `${source?.name ?? 'The charger'} broke off at ${volts(median(stopped.map((one) => one.topVolts)))} in ${share(stopped.length, tops.length, 'charge')}. So high in the battery’s range only its BMS stops the charge; the charger is set to ${volts(setV)} and would go on.`,
      decibans: shrunk(WEIGHTS.stoppedBelowSetting, stopped.length),
      group: 'plateau',
      spans: stopped,
    },
  ];
}

/** Their stages, those that begin on one day together. */
function byDay(charges: readonly Charge[]): Pick<Charge, 'stages'>[] {
  const days = new Map<number, Stage[]>();
  for (const stage of charges.flatMap(({ stages }) => stages)) {
    const day = Math.floor(stage.from / DAY);
    days.set(day, [...(days.get(day) ?? []), stage]);
  }
  return [...days.values()].map((stages) => ({ stages }));
}

type Refusals = NonNullable<Parameters<NonNullable<Cause['weigh']>>[0]['refusals']>;

/** V at 25 °C up to which a charger goes by its setting; 0 where no setting is known. */
const highestSetting = ({ sources }: Observations['system']): number =>
  Math.max(0, ...sources.map(({ profile }) => profile.absorptionV ?? 0));

/**
 * The BMS opens at the top of the range at the latest: a mean above it is seen by chance. Where the charger is set above it, a stop within
 * the range is the setting's: the cells sink back before a slow log has a row.
 */
function highTogether(
  refusals: Refusals,
  { chargeVolts, cellsInSeries }: KnownBank,
  set: number,
): Evidence[] {
  const { min, max } = chargeVolts;
  const isSetAbove = set > max;
  const most = (isSetAbove ? min : max) / cellsInSeries;
  const high = refusals.filter((one) => one.meanV > most && one.highestV - one.meanV < TOGETHER);
  if (high.length === 0) return [];
  const stopped = `The BMS stopped the charge ${counted(high.length, 'time')} with all cells high together, at ${volts(median(high.map((one) => one.meanV)))} a cell on average`;
  return [
    {
      text: isSetAbove
        ? `${stopped}; the charger would go on up to ${volts(set / cellsInSeries)}.`
        : `${stopped}, above the ${volts(most)} that the battery asks for at most.`,
      decibans: shrunk(WEIGHTS.bmsStops, 2 * high.length),
      group: 'bms',
      spans: high,
    },
  ];
}

/** °C from which a temperature, rather than the setting, makes a plateau high. */
const FAR = 8;

/** What speaks for a temperature that is not the battery's instead of a setting that is too high. */
function byTemperature(one: SourceCharging): Evidence[] {
  const told = one.source?.profile.absorptionV;
  const by = goesBy(one);
  if (!by || by.off > -FAR || told === undefined || told > one.bank.chargeVolts.max) return [];
  return [
    {
      text: `It goes by a temperature ${celsius(-by.off)} below the battery’s, and what it is set to at 25 °C is right.`,
      decibans: WEIGHTS.otherTemperature,
      group: 'temperature',
      spans: [],
    },
  ];
}
