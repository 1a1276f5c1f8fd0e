/** A charger bypasses the monitor. */

import { ampHours, amps, duration } from '../quantity/text';
import type { Counting } from '../count/types';
import { HOUR } from '../quantity/span';
import { type Bands, type Cause, type Evidence, type Judged, weightOf } from './cause';
import {
  COMES_AND_GOES,
  COVERAGE_ANSWERS,
  COVERAGE_WEIGHTS,
  missingCoverage,
  weighCoverage,
  weighShares,
  zeroAtFloat,
} from './coverage';
import { LIVE } from './remedy';

const WEIGHTS = {
  ...COVERAGE_WEIGHTS,
  /** Hours at charging voltage in which the monitor shows the battery drawn on as at night, of all such hours. */
  drawnWhileCharging: [
    [0.45, 14],
    [0.25, 11],
    [0.12, 6],
    [0.03, 0],
    [0, -8],
  ],
  /** The monitor never shows a charge at all. */
  neverCharges: 4,
  /** A charger that counts its own current sees no other, whichever wire is moved. */
  ownCount: -15,
  /** More came out than a full battery holds, by so many times its capacity. */
  fromNowhere: [
    [3.5, 15],
    [2, 13],
    [1.3, 10],
    [0.9, 3],
    [0, 0],
  ],
} as const satisfies Record<string, Bands | number>;

/** Fewer hours at charging voltage say nothing. */
const LEAST_HOURS = 5;
/** Part of the usual load that must show: less is a zero error. */
const LIKE_LOAD = 0.45;
/** Or so much, parts of the capacity in A: no zero is so far off. */
const MORE = 0.006;
/** Part of the capacity under which nothing is charged with, A. */
const NOTHING = 0.003;

export const sourceNotCounted: Cause = {
  code: 'source-not-counted',
  title: 'A charger bypasses the monitor',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: [],
  needs: 'the wiring walk: which conductors pass the sensor; or the charger’s log beside the monitor’s',
  signature: 'the reading walks down by what that charger gives, while the battery is full',
  prior: { complained: -4, otherwise: -10 },
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  answers: COVERAGE_ANSWERS,
  onSite: { 'source-unseen': 15, 'sources-shown': -10, 'deeper-than-capacity': 4 },
  tests: {
    'clamp-each-conductor': [
      { name: 'a charger’s current that the monitor does not show', ifHolds: 0.95, ifNot: 0.03 },
      { name: 'the monitor shows each charger', ifHolds: 0.05, ifNot: 0.97 },
    ],
  },
  described: (seen) => weighCoverage(seen, seen.system.sources, 'source'),
  weigh: (seen) =>
    seen.system.monitor?.method === 'source-count'
      ? [
          {
            text: 'The percentage is a charger’s own count: what other chargers give never passes it, however they are wired.',
            decibans: WEIGHTS.ownCount,
            group: 'own-count',
            spans: [],
          },
        ]
      : [...weighShares(seen, 'source'), ...weighUnseen(seen), ...weighNowhere(seen)],
  remedy: ({ system }) => {
    const names = system.sources.filter((one) => one.counted === false).map((one) => one.name);
    return {
      text: `Move the negative of ${names.length > 0 ? names.join(' and ') : 'that charger'} to the far side of the sensor, so that one conductor alone is left on the battery’s own side; then synchronise.`,
      caution: LIVE,
    };
  },
  missing: (seen) => missingCoverage(seen, seen.system.sources),
};

/** A zero error is plain where it is so many times its doubt. */
const PLAIN = 3;

/** Beside the BMS’s meter it shows the same current but for a zero: so near one is the ratio, and so well known. */
const SAME = { slope: 0.03, error: 0.02 };

/**
 * A that the monitor shows too much out of the battery where nothing flows, 0 or less: plain where the BMS’s meter sees all the same but for
 * it; or where each charger is wired so that it counts, and what is shown at charging voltage is not what the loads draw; or on float.
 */
function zeroOf(counting: Counting, seen: Judged): number {
  const {
    offsetA: { value, deviation },
    meters,
  } = counting;
  const { sources } = seen.system;
  const { bms } = meters;
  if (
    bms &&
    Math.abs(bms.slope - 1) < SAME.slope &&
    bms.slopeError < SAME.error &&
    bms.comesAndGoes <= COMES_AND_GOES
  )
    return Math.min(0, bms.offsetA);
  const isWired = sources.length > 0 && sources.every((one) => one.counted === true);
  const isPlain = value < -PLAIN * deviation && !(likeLoad(meters.unseen) >= LIKE_LOAD);
  return isWired && isPlain ? value : zeroAtFloat(seen);
}

/** What the monitor shows at charging voltage, in parts of the usual load, both put right by its zero; 1 where that is not known. */
const likeLoad = (unseen: Counting['meters']['unseen'], zero = 0): number =>
  unseen && unseen.drawnAmps === unseen.drawnAmps ? (unseen.amps - zero) / (unseen.drawnAmps - zero) : 1;

/** Charging voltages while the monitor shows nothing but the loads: somebody charges whom it does not see. */
function weighUnseen(seen: Judged): Evidence[] {
  const { counting, system, bank } = seen;
  const unseen = counting?.meters.unseen;
  if (!counting || !unseen || unseen.ofHours < LEAST_HOURS || system.monitor?.method === 'voltage') return [];
  // The wrong way round, everything that charges shows as drawn.
  if (counting.wrong.gain < 0) return [];
  const zero = zeroOf(counting, seen);
  const shown = unseen.amps - zero;
  const load = shown < 0 && (likeLoad(unseen, zero) >= LIKE_LOAD || -shown > MORE * bank.capacityAh);
  const part = unseen.hours > 0 && load ? unseen.hours / unseen.ofHours : 0;
  const never = counting.meters.mostIn < NOTHING * bank.capacityAh;
  const decibans = weightOf(WEIGHTS.drawnWhileCharging, part);
  // What the BMS’s meter shows of one charger is not excused by another that the monitor sees.
  if (decibans < 0 && counting.meters.bms && counting.wrong.unseen.some((one) => one.kind === 'source'))
    return [];
  return [
    {
      text:
        part >= 0.03
          ? `For ${duration(unseen.hours * HOUR)} of the ${duration(unseen.ofHours * HOUR)} at charging voltage the monitor shows ${amps(Math.abs(unseen.amps))} out of the battery, as when only loads run.`
          : `Whenever the battery stands at charging voltage the monitor shows what flows${zero < 0 ? ', but for its zero' : ''}.`,
      decibans,
      group: 'unseen',
      spans: unseen.spans,
    },
    ...(never && part >= 0.3
      ? [
          {
            text: 'It never shows a charge.',
            decibans: WEIGHTS.neverCharges,
            group: 'never',
            spans: [counting.logged],
          },
        ]
      : []),
  ];
}

/** Parts of the capacity in A: what is missing by less than this may be a zero error. */
const ZERO = 0.004;

/** Ampere-hours that came out of the battery without ever having gone in. */
function weighNowhere(seen: Judged): Evidence[] {
  const { counting, system, bank } = seen;
  if (!counting || system.monitor?.method === 'voltage' || counting.wrong.gain < 0) return [];
  const { through } = counting;
  const missing = through.out - through.in + zeroOf(counting, seen) * through.hours;
  const decibans = weightOf(WEIGHTS.fromNowhere, missing / bank.capacityAh);
  if (decibans === 0 || missing / through.hours < ZERO * bank.capacityAh) return [];
  return [
    {
      text: `By the monitor ${ampHours(through.out)} came out of a battery of ${ampHours(bank.capacityAh)}, and ${ampHours(through.in)} went in.`,
      decibans,
      group: 'unseen',
      spans: [counting.logged],
    },
  ];
}
