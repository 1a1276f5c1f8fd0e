/** Nothing is wrong: so much at once that a good lead battery gives less, as Peukert's law has it. */

import type { Discharge } from '../capacity/discharges';
import { referenceAt } from '../count/reference';
import type { CutOff } from '../cutoff/types';
import { isNumber, mean, median, robustDeviation } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import { ampHours, amps, counted, duration, percent, volts } from '../quantity/text';
import type { KnownBank } from '../system/known';
import { type Cause, type Evidence, type Judged, shrunk, weightOf } from './cause';
import { BEYOND_REST, cuttingOf, missingCuts } from './cutting';

const WEIGHTS = {
  /** Hours in which the current at the cut-offs empties the battery; fewer is faster. */
  hours: [
    [8, -14],
    [6, -8],
    [5.2, -1],
    [4.5, 3],
    [0, 6],
  ],
  /** Points between what was left and what that rate leaves. */
  apart: [
    [35, -7],
    [25, 0],
    [15, 4],
    [0, 7],
  ],
  /** Far less was left than the rate leaves, and next to nothing: it was empty whatever the rate. */
  empty: -4,
  /** What a full battery gave until it was empty, put right for the rate, in parts of its rating; as it came out it was too little. */
  gave: [
    [1.25, -3],
    [0.87, 7],
    [0.82, 4],
    [0.8, 2],
    [0.7, -4],
    [0, -8],
  ],
  /** So many discharges that gave alike are no accident of one. */
  again: 2,
  /** Its resistance is a good one's, or not. */
  good: 3,
  high: -9,
  /** Minutes that it ran before it went off: what is at fault at once is not the rate. */
  ran: [
    [20, 5],
    [8, 1],
    [0, -7],
  ],
  setHigh: -8,
  beyondRest: -9,
} as const;

/** Exponent of a lead battery where nothing is told (common practice, no source), and hours for which its capacity holds. */
const USUAL = { exponent: 1.24, hours: 20 };

/** V a block: a disconnect that lets go above it is set high for a large load (common practice, no source). */
const SET_HIGH = 11.9;

/** Next to nothing, %, and so many points under what the rate leaves. */
const EMPTY = { left: 8, under: 10 };

/** Of the rating, as it came out: more is no complaint. */
const LITTLE = 0.8;

/** So many discharges, within so much of the rating of each other. */
const ALIKE = { fewest: 5, within: 0.05 };

/**
 * A discharge that ends so shortly after a cut-off was ended by it, small loads going on, or before it, the clocks being what they are; and one
 * that gave so much, %, put right for its rate, gave what it had.
 */
const ENDED_BY = { after: 2 * HOUR, before: 10 * MINUTE };
const GAVE = 80;
/** So long before a run the battery was without it. */
const BEFORE = 5 * MINUTE;

/** Discharges from full until it was empty, or until the cut-off: where they are seen, what is left need not be asked. */
function ofDischarges({ counting, bank, cutoffs }: Judged): Evidence[] {
  const all = counting?.discharges ?? [];
  const whole = all.flatMap((one) => (one.holds ? [{ ...one, percent: one.holds.percent }] : []));
  if (whole.length > 0)
    return ofAlike(
      whole,
      (out) => `${counted(whole.length, 'discharge')} from full until it was empty gave ${out}`,
      bank,
    );
  const gave = all.filter(
    ({ to, percent: part }) =>
      part >= GAVE && cutoffs?.list.some(({ at }) => to - at <= ENDED_BY.after && at - to <= ENDED_BY.before),
  );
  return ofAlike(
    gave,
    (out) => `From full to the cut-off it gave ${out}, ${counted(gave.length, 'time')}`,
    bank,
  );
}

/** A battery that held so much as a run began, %, known so well, was as good as full. */
const BEGAN = { held: 80, deviation: 8 };

/** The exponent by which the monitor counts, else the usual one. */
const exponentOf = ({ system }: Pick<Judged, 'system'>): number => system.monitor?.peukert ?? USUAL.exponent;

/**
 * What stays in a battery that is emptied in so many hours, parts of its capacity. W. Peukert, Elektrotechnische Zeitschrift 20 (1897): at a
 * faster rate so much less comes out.
 */
const staysIn = (hours: number, { capacityHours }: KnownBank, exponent: number): number =>
  1 - (hours / (capacityHours ?? USUAL.hours)) ** (exponent - 1);

/** One long run from a battery that was as good as full down to the cut-off, where it was then as good as empty. */
function ofRuns(seen: Judged, cuts: readonly CutOff[]): Evidence[] {
  const { counting, bank } = seen;
  if (!counting) return [];
  const runs = cuts.flatMap((one) => {
    const began = referenceAt(counting.course, one.at - one.ranMs - BEFORE);
    if (!(began.percent >= BEGAN.held) || !(began.deviation <= BEGAN.deviation)) return [];
    const out = (one.amps * one.ranMs) / HOUR;
    const rate = staysIn(bank.capacityAh / one.amps, bank, exponentOf(seen));
    const part = (100 * out) / (began.percent * bank.capacityAh * (1 - rate));
    return isNumber(part)
      ? [{ out, held: began.percent, part, span: { from: one.at - one.ranMs, to: one.at } }]
      : [];
  });
  const out = median(runs.map((one) => one.out));
  if (runs.length < 2 || !(out < LITTLE * bank.capacityAh)) return [];
  const part = median(runs.map((one) => one.part));
  return [
    {
      text: `It held ${percent(median(runs.map((one) => one.held)))} as the load came on, and gave ${ampHours(out)} until the cut-off, ${counted(runs.length, 'time')}; put right for the rate that is ${percent(100 * part)} of what was there.`,
      decibans: shrunk(weightOf(WEIGHTS.gave, part), runs.length),
      group: 'left',
      spans: runs.map((one) => one.span),
    },
  ];
}

/** What they gave, put right for the rate, where it was too little as it came out. @param said of the Ah that came out */
function ofAlike(
  gave: readonly Discharge[],
  said: (ampHours: string) => string,
  { capacityAh }: KnownBank,
): Evidence[] {
  const out = median(gave.map((one) => one.ampHours));
  if (!(out < LITTLE * capacityAh)) return [];
  const parts = gave.map((one) => one.percent / 100);
  const part = median(parts);
  const decibans = weightOf(WEIGHTS.gave, part);
  const isAlike = gave.length >= ALIKE.fewest && robustDeviation(parts) < ALIKE.within;
  return [
    {
      text: `${said(ampHours(out))}; put right for the rate that is ${percent(100 * part)} of its ${capacityAh} Ah.`,
      decibans: shrunk(decibans, gave.length),
      group: 'left',
      spans: gave.map(({ from, to }) => ({ from, to })),
    },
    ...(isAlike && decibans > 0
      ? [{ text: 'It gave as much each time.', decibans: WEIGHTS.again, group: 'again', spans: [] }]
      : []),
  ];
}

export const rateExpected: Cause = {
  code: 'rate-expected',
  title: 'The load is too large for the battery; nothing is wrong',
  complaint: 'premature-cutoff',
  chemistries: ['flooded', 'agm', 'gel'],
  families: ['discharge'],
  needs: 'the battery’s current from a full charge to a cut-off',
  signature: 'what came out is what this rate leaves of the capacity',
  prior: { complained: -6, otherwise: -10 },
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  tests: {
    'capacity-test': [
      { name: 'below 80 % of its rating', ifHolds: 0.08, ifNot: 0.7 },
      { name: 'near its rating', ifHolds: 0.92, ifNot: 0.3 },
    ],
  },
  weigh(seen): Evidence[] {
    const cuts = cuttingOf(seen);
    if (!cuts) return [];
    const { bank } = seen;
    const drawn = median(cuts.list.map((one) => one.amps).filter(isNumber));
    if (!(drawn > 0)) return [];
    const hours = bank.capacityAh / drawn;
    const evidence: Evidence[] = [
      {
        text: `${amps(drawn)} at the cut-offs would empty ${bank.capacityAh} Ah in ${hours.toFixed(1)} hours.`,
        decibans: weightOf(WEIGHTS.hours, hours),
        group: 'rate',
        spans: cuts.spans,
      },
    ];
    const gave = hours < 8 ? ofDischarges(seen) : [];
    evidence.push(...gave);
    const isOpen = gave.length === 0 && hours < 8;
    // Where the two are far apart neither says what was left: the battery does not hold what the count goes by.
    if (isOpen && cuts.beyondRest > BEYOND_REST)
      evidence.push({
        text: `By the count ${percent(cuts.held)} was left, ${Math.round(cuts.beyondRest)} points more than the voltage it comes back to stands for.`,
        decibans: shrunk(WEIGHTS.beyondRest, cuts.list.length),
        group: 'left',
        spans: cuts.spans,
      });
    else if (isOpen && isNumber(cuts.held)) {
      const law = 100 * staysIn(hours, bank, exponentOf(seen));
      // After a fast discharge the count and the voltage it comes back to stand on either side of the truth.
      const left = mean([cuts.held, cuts.restPercent]);
      const isEmpty = left < EMPTY.left && law - left > EMPTY.under;
      // Where next to nothing was left, what came out of it tells whether the rate took the rest.
      const runs = isEmpty ? ofRuns(seen, cuts.list) : [];
      evidence.push(
        ...(runs.length > 0
          ? runs
          : [
              {
                text: `By Peukert’s law ${percent(law)} stays in at that rate; about ${percent(left)} was left.`,
                decibans: shrunk(
                  isEmpty ? WEIGHTS.empty : weightOf(WEIGHTS.apart, Math.abs(law - left)),
                  cuts.list.length,
                ),
                group: 'left',
                spans: cuts.spans,
              },
            ]),
      );
    }
    if (hours < 8 && isNumber(cuts.ranMs))
      evidence.push({
        text: `It had run for ${duration(cuts.ranMs)} when it went off.`,
        decibans: shrunk(weightOf(WEIGHTS.ran, cuts.ranMs / MINUTE), cuts.list.length),
        group: 'ran',
        spans: cuts.spans,
      });
    const level = isNumber(cuts.loadVolts) ? cuts.loadVolts : cuts.volts;
    if (level > SET_HIGH)
      evidence.push({
        text: `It goes off at ${volts(level)} a 12 V block already.`,
        decibans: WEIGHTS.setHigh,
        group: 'level',
        spans: [],
      });
    // What it came back by after hours of a large load is more than its resistance.
    if (hours < 5 && isNumber(cuts.bySteps))
      evidence.push({
        text: `Its resistance is ${cuts.bySteps.toFixed(1)} times a good one’s.`,
        decibans: cuts.bySteps > 2 ? WEIGHTS.high : cuts.bySteps < 1.6 ? WEIGHTS.good : 0,
        group: 'ohms',
        spans: [],
      });
    return evidence;
  },
  missing: missingCuts,
  remedy: () => ({
    text: 'Explain it to the owner: at this rate the battery gives less and gives the rest after a rest. More capacity in parallel, or a smaller load, is what helps.',
    caution: null,
  }),
};
