/** The disconnect is set above what the battery needs at this load. */

import { isNumber } from '../quantity/numbers';
import { percent, volts } from '../quantity/text';
import { blocksInSeries, isLead } from '../system/chemistry';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { atCuts, CUT_PRIOR, cuttingOf, missingCuts } from './cutting';

const WEIGHTS = {
  /** Set, or seen at the load, V a block: lead, and lithium. */
  level: [
    [12.05, 9],
    [11.85, 4],
    [11.65, -3],
    [0, -11],
  ],
  levelLithium: [
    [12.85, 9],
    [12.6, 4],
    [12.3, -3],
    [0, -11],
  ],
  held: [
    [55, 7],
    [40, 5],
    [30, 0],
    [0, -12],
  ],
  /** The voltage sank for another reason: parts of a good battery's resistance, and V a block lost on the way. */
  sags: -8,
  lost: -10,
} as const;

/** V a block that a battery sinks by under a load and comes back by, to speak of a sinking one. */
const SINKS = 0.4;

export const cutoffSetHigh: Cause = {
  code: 'cutoff-set-high',
  title: 'The low-voltage disconnect is set too high',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  families: ['discharge'],
  needs: 'the setting of the disconnect, or several cut-offs with the voltage at the load',
  signature: 'off near the setting, with much left in the battery',
  prior: CUT_PRIOR,
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  tests: {
    'read-load-settings': [
      { name: 'set above what the battery needs', ifHolds: 0.9, ifNot: 0.1 },
      { name: 'set as it should be', ifHolds: 0.1, ifNot: 0.9 },
    ],
  },
  weigh(seen): Evidence[] {
    const cuts = cuttingOf(seen);
    if (!cuts || cuts.share('volts') < 0.5) return [];
    const { bank, system } = seen;
    const blocks = blocksInSeries(bank);
    const by = new Set(cuts.list.map((one) => one.by));
    const set = system.loads.flatMap((one) =>
      one.cutoffV !== undefined && (by.has(one.id) || by.has('unknown')) ? [one.cutoffV / blocks] : [],
    );
    const level = set.length > 0 ? Math.max(...set) : isNumber(cuts.loadVolts) ? cuts.loadVolts : cuts.volts;
    const evidence: Evidence[] = [
      {
        text: `The load ${set.length > 0 ? 'is set to go off' : 'goes off'} at ${volts(level)} a 12 V block.`,
        decibans: weightOf(isLead(bank.chemistry) ? WEIGHTS.level : WEIGHTS.levelLithium, level),
        group: 'level',
        spans: cuts.spans,
      },
    ];
    if (isNumber(cuts.held))
      evidence.push({
        text: `${atCuts(cuts)} the battery still held ${percent(cuts.held)} as a rule.`,
        decibans: shrunk(weightOf(WEIGHTS.held, cuts.held), cuts.list.length),
        group: 'held',
        spans: cuts.spans,
      });
    // Near its rest voltage it hardly sank at all.
    if ((cuts.bySteps > 2.2 || cuts.sag > 3.5) && !(cuts.rest - cuts.volts < SINKS))
      evidence.push({
        text: 'The battery’s voltage sinks more under the load than a good one’s.',
        decibans: WEIGHTS.sags,
        group: 'sags',
        spans: [],
      });
    if (cuts.lost > 0.35)
      evidence.push({
        text: `${volts(cuts.lost)} a 12 V block are lost on the way to the load.`,
        decibans: WEIGHTS.lost,
        group: 'lost',
        spans: [],
      });
    return evidence;
  },
  missing: missingCuts,
  remedy: ({ bank }) => ({
    text: isLead(bank.chemistry)
      ? 'Set it for the load that runs: about 12.0 V a 12 V block at a small load, 11.5 V and less at a large one, and let the alarm come earlier.'
      : 'Set it under the flat part: about 12.0 V a 12 V block, above what the BMS stops at.',
    caution: 'Lower a limit only where the battery was not empty: never to hide a fault.',
  }),
};
