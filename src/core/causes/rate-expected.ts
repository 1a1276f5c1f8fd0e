/** Nothing is wrong: so much at once that a good lead battery gives less, as Peukert's law has it. */

import { isNumber, median } from '../quantity/numbers';
import { amps, percent } from '../quantity/text';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { cuttingOf, missingCuts } from './cutting';

const WEIGHTS = {
  /** Hours in which the current at the cut-offs empties the battery; fewer is faster. */
  hours: [
    [8, -14],
    [5, -8],
    [3.5, -1],
    [0, 6],
  ],
  /** Points between what was left and what that rate leaves. */
  apart: [
    [35, -7],
    [25, 0],
    [15, 4],
    [0, 7],
  ],
  /** Its resistance is a good one's, or not. */
  good: 3,
  high: -9,
} as const;

/** Exponent of a lead battery where nothing is told (common practice, no source), and hours for which its capacity holds. */
const USUAL = { exponent: 1.24, hours: 20 };

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
      { name: 'near its rating at the rated current', ifHolds: 0.92, ifNot: 0.3 },
      { name: 'below 80 % of it', ifHolds: 0.08, ifNot: 0.7 },
    ],
  },
  weigh(seen): Evidence[] {
    const cuts = cuttingOf(seen);
    if (!cuts) return [];
    const { bank, system } = seen;
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
    if (hours < 8 && isNumber(cuts.held)) {
      const exponent = system.monitor?.peukert ?? USUAL.exponent;
      // W. Peukert, Elektrotechnische Zeitschrift 20 (1897): at a faster rate so much less comes out.
      const left = 100 * (1 - (hours / (bank.capacityHours ?? USUAL.hours)) ** (exponent - 1));
      evidence.push({
        text: `By Peukert’s law ${percent(left)} stays in at that rate; ${percent(cuts.held)} was left.`,
        decibans: shrunk(weightOf(WEIGHTS.apart, Math.abs(left - cuts.held)), cuts.list.length),
        group: 'left',
        spans: cuts.spans,
      });
    }
    if (hours < 5 && isNumber(cuts.ohms))
      evidence.push({
        text: `Its resistance is ${cuts.ohms.toFixed(1)} times a good one’s.`,
        decibans: cuts.ohms > 2 ? WEIGHTS.high : cuts.ohms < 1.5 ? WEIGHTS.good : 0,
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
