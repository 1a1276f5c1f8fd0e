/** The battery holds less than it is rated for. */

import { isNumber, median, robustDeviation } from '../quantity/numbers';
import { DAY } from '../quantity/span';
import { counted, percent } from '../quantity/text';
import type { Discharge } from '../capacity/discharges';
import { testText } from '../capacity/text';
import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { AGE_WEIGHTS, weighAge } from './age';
import { type Cause, type Evidence, type Observations, shrunk, weightOf } from './cause';
import { BEYOND_REST, cuttingOf } from './cutting';
import { refilledAfterLittle } from './fake-full';
import { SINKS_WEIGHTS, sinksFast } from './sinks';

const WEIGHTS = {
  /** What it holds with its doubt, parts of the label (80 %: IEEE Std 450, from memory). */
  holds: [
    [1, -10],
    [0.9, -5],
    [0.8, 3],
    [0.7, 9],
    [0.65, 13],
    [0, 15],
  ],
  /** Drawn from full until it was empty: as good as a capacity test. */
  emptied: [
    [1, -12],
    [0.9, -6],
    [0.8, 3],
    [0.7, 12],
    [0.6, 14],
    [0, 15],
  ],
  /** Three discharges or more that gave alike, and plainly too little: no accident of one charge. */
  again: 3,
  /** Points by which the count by the label leaves more at the cut-offs than the voltage that it comes back to. */
  beyondRest: [
    [40, 15],
    [30, 12],
    [22, 4],
  ],
  shown: 3,
  /** A capacity test, at most so many dB: it was made with a load and a clock. */
  tested: [
    [0.95, -13],
    [0.85, -6],
    [0.8, 2],
    [0.7, 13],
    [0, 15],
  ],
} as const;

/** A battery under this is at its end, % of its rating (IEEE Std 450, from memory). */
const LOST = 80;

/** What is left at the cut-offs, %, of a battery that is as good as empty. */
const EMPTY = 30;

const YEAR = 365 * DAY;

/** The latest complete test; what is years old says what it held then. */
function ofTests({ capacityTests, job }: Pick<Observations, 'capacityTests' | 'job'>): Evidence[] {
  const last = capacityTests.findLast((one) => one.isAtItsEnd !== null);
  if (!last) return [];
  const age = Math.max(0, Date.parse(job.openedAt) - Date.parse(last.test.on)) / YEAR;
  const part = (last.percent + (last.isAtItsEnd ? last.band : -last.band) / 2) / 100;
  return [
    {
      text: `${testText(last)}${age > 2 ? ` That is ${Math.floor(age)} years ago.` : ''}`,
      decibans: Math.round(weightOf(WEIGHTS.tested, part) * Math.exp(-age / 3)),
      group: 'tested',
      spans: [],
    },
  ];
}

/** Discharges from full until it was empty: what came out, held against the rating. */
function ofDischarges(all: readonly Discharge[], bank: KnownBank): Evidence[] {
  const complete = all.filter((one) => one.holds !== null);
  if (complete.length === 0) return [];
  const percentHeld = median(complete.map((one) => one.holds!.percent));
  const band = median(complete.map((one) => one.holds!.band));
  const spread = robustDeviation(complete.map((one) => one.holds!.percent));
  const isAlike = complete.length >= 3 && spread < band / 2 && percentHeld + band < LOST;
  return [
    {
      text: `${counted(complete.length, 'discharge')} from full until it was empty gave ${percent(percentHeld)} of its ${bank.capacityAh} Ah, corrected for rate and temperature (give or take ${Math.round(band)} points).`,
      decibans: weightOf(WEIGHTS.emptied, (percentHeld + band / 2) / 100),
      group: 'holds',
      spans: complete.map(({ from, to }) => ({ from, to })),
    },
    ...(isAlike
      ? [
          {
            text: `They gave the same each time, within ${counted(Math.max(1, Math.ceil(2 * spread)), 'point')}.`,
            decibans: WEIGHTS.again,
            group: 'again',
            spans: [],
          },
        ]
      : []),
  ];
}

export const capacityLost: Cause = {
  code: 'capacity-lost',
  title: 'The battery has lost capacity',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  families: [],
  needs: 'the state of cases and electrolyte, and age; a capacity test decides',
  signature: 'fewer ampere-hours from full to empty than the rating, corrected for rate and temperature',
  prior: { complained: -5, otherwise: -12 },
  onlyWhenSpokenOf: true,
  weights: { ...AGE_WEIGHTS, ...SINKS_WEIGHTS, ...WEIGHTS },
  answers: {
    electrolyte: { found: 6, fine: -2, text: 'Electrolyte was found low: bare plates sulphate.' },
    case: { found: 8, fine: -1, text: 'A swollen, cracked or wet case was found.' },
  },
  tests: {
    'capacity-test': [
      { name: 'below 80 % of its rating', ifHolds: 0.92, ifNot: 0.06 },
      { name: 'near its rating', ifHolds: 0.08, ifNot: 0.94 },
    ],
  },
  described: (seen) => [...weighAge(seen), ...ofTests(seen)],
  weigh(seen): Evidence[] {
    const { counting, bank } = seen;
    const cuts = cuttingOf(seen);
    if (!counting || counting.wrong.gain !== 1 || counting.wrong.unseen.length > 0) return [];
    const evidence = ofDischarges(counting.discharges, bank);
    const sinks = sinksFast(counting, bank).filter((one) => one.decibans > 0);
    if (!cuts) return evidence.length > 0 ? evidence : sinks;
    const { value, deviation } = counting.capacityAh;
    const part = value / bank.capacityAh;
    const doubt = deviation / bank.capacityAh;
    const ways: Evidence[][] = [];
    // Only an empty battery, or one close to it, tells how much it holds; or what is at its end even with twice its doubt.
    const isAtItsEnd = part + 2 * doubt < LOST / 100;
    const tells = cuts.held < EMPTY || isAtItsEnd;
    if (tells && doubt < 0.12)
      ways.push([
        {
          text: `From full to these cut-offs it gives what a battery of ${Math.round(value)} Ah gives (give or take ${Math.round(2 * deviation)} Ah): ${percent(100 * part)} of its ${bank.capacityAh} Ah.`,
          decibans: weightOf(WEIGHTS.holds, part + doubt),
          group: 'holds',
          spans: cuts.spans,
        },
      ]);
    if (cuts.beyondRest > BEYOND_REST)
      ways.push([
        {
          text: `By the count ${percent(cuts.held)} of its ${bank.capacityAh} Ah was left at the cut-offs, ${Math.round(cuts.beyondRest)} points more than the voltage it comes back to stands for: so much of it is not there.`,
          decibans: shrunk(weightOf(WEIGHTS.beyondRest, cuts.beyondRest), 3 * cuts.list.length),
          group: 'holds',
          spans: cuts.spans,
        },
      ]);
    const refilled = isLead(bank.chemistry) ? refilledAfterLittle(seen.charging) : [];
    if (refilled.length > 0 && refilled.every((one) => one.decibans > 0))
      ways.push(refilled.map((one) => (one.group === 'implied' ? { ...one, group: 'holds' } : one)));
    if (sinks.length > 0) ways.push(sinks);
    // They say one thing: the surest of them counts. What a discharge shows at once needs none.
    if (evidence.length === 0 && ways.length > 0)
      evidence.push(...ways.reduce((best, way) => (way[0]!.decibans >= best[0]!.decibans ? way : best)));
    const shown = median(cuts.list.map((one) => one.shown - one.held).filter(isNumber));
    const byLabel = Math.abs((seen.system.monitor?.capacityAh ?? NaN) / bank.capacityAh - 1) < 0.1;
    if (tells && shown > 20 && byLabel && part + doubt < 0.85)
      evidence.push({
        text: `A monitor that is set to the label still showed ${Math.round(shown)} points more than there were.`,
        decibans: WEIGHTS.shown,
        group: 'shown',
        spans: cuts.spans,
      });
    return evidence;
  },
  remedy: () => ({
    text: 'Prove it with a capacity test at the rated current and temperature. Under 80 % of its rating a battery is at its end; until it is replaced set the monitor to what it holds.',
    caution: null,
  }),
  missing: () => ['a capacity test'],
};
