/** Charging is refused while the battery is cold. */

import type { ColdEdges } from '../charge/coldEdges';
import type { ColdIdle, NeverGave } from '../charge/coldIdle';
import { HOUR, lengthOf } from '../quantity/span';
import { median, sum } from '../quantity/numbers';
import { celsius, counted, duration, percent } from '../quantity/text';
import type { Source } from '../system/schema';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { LITHIUM_COLD } from './remedy';

const WEIGHTS = {
  /** Hours for which the BMS let no charge in, at temperatures at which it should not. */
  refusedHours: [
    [24, 15],
    [8, 12],
    [3, 8],
    [0.5, 3],
    [0, -12],
  ],
  /** Hours in the cold in which the charger gave nothing, though at those times of the day it gives when warmer. */
  idleHours: [
    [20, 15],
    [8, 13],
    [4, 6],
    [0, 0],
  ],
  /** It begins at once whenever the battery comes to one temperature; and it ends there too. */
  beginsAt: 9,
  /** The same, and at one time of the day. */
  beginsByClock: 6,
  endsAt: 4,
  /** It ends at the one it is set to, whenever it began. */
  endsAsSet: 9,
  /** It gave nothing all along, and the battery was never as warm as it is set to ask for. */
  neverWarm: 15,
  /** It alone charges and gave nothing all along, and two thirds of the time the battery was colder than it asks for: it may run at other hours. */
  mostlyCold: 13,
  /** The same of half of the time, where it is known to refuse so cold. */
  halfColdAsSet: 11,
  /** The same where that is not known, or of one source of several. */
  halfCold: 8,
  /** It gave nothing all along, where it is not known what it asks for, and the battery was as cold as many chargers refuse. */
  neverQuiteWarm: 10,
  /** Again and again. */
  again: 5,
  /** The told limit is the one seen. */
  asConfigured: 4,
  /** It was never cold. */
  neverCold: -13,
} as const;

/** °C by which sensors differ. */
const SENSORS = 2;
const COLD = 6;
/** V under the BMS's limit at which a cell is full. */
const NEARLY = 0.05;
/** The warmest of many readings is so much too warm. */
const NOISE = 1;

export const coldChargeBlock: Cause = {
  code: 'cold-charge-block',
  title: 'Charging is refused in the cold',
  complaint: 'undercharging',
  chemistries: ['lfp'],
  families: ['charging'],
  needs: 'battery temperature beside the charge, or the log of the BMS',
  signature: 'a source is there, the voltage is not reached, and no current flows below a temperature',
  prior: { complained: -5, otherwise: -11 },
  weights: WEIGHTS,
  answers: { cold: { found: 5, fine: -1, text: 'The battery was found colder than it may be charged.' } },
  remedy: ({ bank }) => ({
    text:
      bank.chemistry === 'lfp'
        ? 'Warm or insulate the battery, so that it is above its limit when the source is there; leave the limit as it is.'
        : 'A lead battery may be charged in the cold, with the voltage raised by compensation: take the limit out, unless its maker asks for it.',
    caution: bank.chemistry === 'lfp' ? LITHIUM_COLD : null,
  }),
  tests: {
    'warm-the-battery': [
      { name: 'charging begins once it is warm', ifHolds: 0.95, ifNot: 0.05 },
      { name: 'it does not', ifHolds: 0.05, ifNot: 0.95 },
    ],
  },
  weigh({ charging, refusals, bank, system }) {
    const evidence: Evidence[] = [];
    const limit = bank.chargeAboveC ?? system.bms?.chargeAboveC ?? 0;
    // What stops at a cell that is full has another reason.
    const full = (system.bms?.cellHighV ?? Infinity) - NEARLY;
    const cold = (refusals ?? []).filter((one) => one.celsius <= limit + SENSORS && !(one.highestV >= full));
    const hours = cold.reduce((total, one) => total + lengthOf(one), 0) / HOUR;
    if (cold.length > 0)
      evidence.push({
        text: `The BMS let no charge in for ${duration(hours * HOUR)}, ${counted(cold.length, 'time')}, with the battery at ${celsius(median(cold.map((one) => one.celsius)))}; it may be charged above ${celsius(limit)}.`,
        decibans: shrunk(weightOf(WEIGHTS.refusedHours, hours), 3 * cold.length),
        group: 'refused',
        spans: cold,
      });
    if (cold.length >= 3 || hours >= 24)
      evidence.push({
        text: 'It refused whenever it was cold, not once by chance.',
        decibans: WEIGHTS.again,
        group: 'again',
        spans: [],
      });
    for (const { source, coldIdle, coldEdges, neverGave, setpoints } of charging) {
      const asked = source?.profile.chargeAboveC ?? limit;
      const never = neverGave ? weighNever(source, neverGave, asked, charging.length === 1) : [];
      if (never.length > 0) {
        evidence.push(...never);
        continue;
      }
      // Days as warm as each other leave few hours to compare, and many at which it begins; days that differ, the other way round.
      const stops = [
        coldIdle ? weighIdle(coldIdle, source) : [],
        coldEdges ? weighEdges(coldEdges, source) : [],
      ].reduce((one, other) => (weightIn(other) > weightIn(one) ? other : one));
      if (stops.length > 0) evidence.push(...stops);
      else if (
        cold.length === 0 &&
        setpoints.coldest !== null &&
        setpoints.coldest > Math.max(limit, COLD) + SENSORS
      )
        evidence.push({
          text: `The battery was never colder than ${celsius(setpoints.coldest)}.`,
          decibans: WEIGHTS.neverCold,
          group: 'refused',
          spans: [],
        });
      // A charger with a limit of its own asks no BMS.
      else if (cold.length === 0 && refusals && source?.profile.chargeAboveC === undefined)
        evidence.push({
          text: 'The BMS never refused a charge for the cold.',
          decibans: weightOf(WEIGHTS.refusedHours, 0),
          group: 'refused',
          spans: [],
        });
    }
    return evidence;
  },
  missing: ({ charging }, evidence) =>
    charging.length > 0 && evidence.length === 0 ? ['battery temperature, or the log of the BMS'] : [],
};

/** A charger that gave nothing all along, by how cold the battery was meanwhile; nothing where it was warm. */
function weighNever(
  source: Source | null,
  { warmestC, middleC, mostlyC, days }: NeverGave,
  asked: number,
  alone: boolean,
): Evidence[] {
  const own = source?.profile.chargeAboveC;
  const gave = `${source?.name ?? 'The charger'} gave nothing on ${counted(Math.floor(days), 'day')}, and`;
  const as = (text: string, weight: number): Evidence[] => [
    { text, decibans: shrunk(weight, 2 * days), group: 'idle', spans: [] },
    ...(own === undefined
      ? []
      : [
          {
            text: `${source!.name} itself is set to give nothing below ${celsius(own)}.`,
            decibans: WEIGHTS.asConfigured,
            group: 'told',
            spans: [],
          },
        ]),
  ];
  if (warmestC < asked + NOISE)
    return as(
      `${gave} the battery was never warmer than ${celsius(warmestC)}; it is to be charged above ${celsius(asked)}.`,
      WEIGHTS.neverWarm,
    );
  if (own === undefined && warmestC < COLD + NOISE)
    return as(
      `${gave} the battery was never warmer than ${celsius(warmestC)}: many chargers refuse lithium so cold.`,
      WEIGHTS.neverQuiteWarm,
    );
  if (middleC < asked) {
    const isMostly = alone && mostlyC < asked;
    const half = alone && own !== undefined ? WEIGHTS.halfColdAsSet : WEIGHTS.halfCold;
    return as(
      `${gave} ${isMostly ? 'two thirds' : 'half'} of the time the battery was colder than ${celsius(isMostly ? mostlyC : middleC)}; it is to be charged above ${celsius(asked)}. When it was warmer the charger may not have run.`,
      isMostly ? WEIGHTS.mostlyCold : half,
    );
  }
  return [];
}

/** The limit that is told is the one that the log shows. */
function asConfigured(source: Source | null, seenC: number): Evidence[] {
  const told = source?.profile.chargeAboveC;
  if (told === undefined || Math.abs(told - seenC) > SENSORS) return [];
  return [
    {
      text: `${source!.name} is set to give nothing below ${celsius(told)}, which is what the log shows.`,
      decibans: WEIGHTS.asConfigured,
      group: 'told',
      spans: [],
    },
  ];
}

const weightIn = (some: readonly Evidence[]): number => sum(some.map((one) => one.decibans));

function weighIdle({ belowC, hours, gaveBelow, gaveAbove }: ColdIdle, source: Source | null): Evidence[] {
  return [
    {
      text: `Below ${celsius(belowC)} ${source?.name ?? 'The charger'} gave nothing: ${percent(100 * gaveBelow)} of ${duration(hours * HOUR)} at times of the day at which, when it is warmer, it gives in ${percent(100 * gaveAbove)}.`,
      decibans: weightOf(WEIGHTS.idleHours, hours),
      group: 'idle',
      spans: [],
    },
    ...(gaveBelow < 0.02 && hours > 5
      ? [
          {
            text: 'Not once did it give anything below that.',
            decibans: WEIGHTS.again,
            group: 'again',
            spans: [],
          },
        ]
      : []),
    ...asConfigured(source, belowC),
  ];
}

function weighEdges({ atC, begins, ends, hours, byClock }: ColdEdges, source: Source | null): Evidence[] {
  const name = source?.name ?? 'The charger';
  return [
    begins > 0
      ? {
          text: `${name} began all at once ${counted(begins, 'time')} as the battery came to ${celsius(atC)}${byClock ? ', at the same time each day' : ''}.`,
          decibans: shrunk(byClock ? WEIGHTS.beginsByClock : WEIGHTS.beginsAt, begins),
          group: 'idle',
          spans: [],
        }
      : {
          text: `${name} stopped all at once ${counted(ends, 'time')} as the battery fell to ${celsius(atC)}, before it was full.`,
          decibans: shrunk(WEIGHTS.endsAsSet, ends),
          group: 'idle',
          spans: [],
        },
    {
      text: `In ${duration(hours * HOUR)} below that it gave next to nothing.`,
      decibans: WEIGHTS.again,
      group: 'again',
      spans: [],
    },
    ...(begins > 0 && ends >= 2
      ? [
          {
            text: `It ended at the same temperature ${counted(ends, 'time')}, the battery not being full.`,
            decibans: shrunk(WEIGHTS.endsAt, ends),
            group: 'ends',
            spans: [],
          },
        ]
      : []),
    ...asConfigured(source, atC),
  ];
}
