/** The battery's inner resistance is high: its voltage sinks under load and comes back at once. */

import { isNumber } from '../quantity/numbers';
import { percent, volts } from '../quantity/text';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { atCuts, BRIEF, CUT_PRIOR, cuttingOf, missingCuts } from './cutting';

const WEIGHTS = {
  /** By steps of the current at the battery's own terminals, parts of a good one's. */
  steps: [
    [3, 13],
    [2.4, 9],
    [2, 3],
    [1.5, -3],
    [0, -10],
  ],
  /** By what the voltage came back by after cut-offs. */
  sag: [
    [4, 11],
    [3, 7],
    [2.2, 0],
    [1.5, -4],
    [0, -9],
  ],
  /** V a block that it sank by under the load and came back by: less cuts nothing off. */
  sank: [
    [0.9, 3],
    [0.5, 0],
    [0, -8],
  ],
  held: [
    [40, 3],
    [20, -3],
    [0, -12],
  ],
} as const;

export const batteryResistance: Cause = {
  code: 'battery-resistance',
  title: 'The battery’s inner resistance is high',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  families: ['discharge'],
  needs: 'voltage at the battery’s terminals and its current while a large load comes and goes',
  signature: 'the voltage sinks with the current at the battery itself, and comes back with the load away',
  prior: CUT_PRIOR,
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  caps: { ohms: 15 },
  tests: {
    'load-step': [
      { name: 'far more than a good battery’s', ifHolds: 0.9, ifNot: 0.08 },
      { name: 'as a good battery’s', ifHolds: 0.1, ifNot: 0.92 },
    ],
  },
  weigh(seen): Evidence[] {
    const cuts = cuttingOf(seen);
    if (!cuts) return [];
    const evidence: Evidence[] = [];
    const { resistance } = cuts;
    if (resistance) {
      evidence.push({
        text: `By ${resistance.steps} steps of its current the battery has ${(1000 * resistance.ohms).toFixed(1)} mΩ, ${cuts.bySteps.toFixed(1)} times what a good one of this size has.`,
        decibans: weightOf(WEIGHTS.steps, cuts.bySteps),
        group: 'ohms',
        spans: [],
      });
    }
    // An empty battery sinks whatever its resistance, and after long runs it comes back by more than that.
    if (isNumber(cuts.sag) && !(cuts.held < 25) && !(cuts.ranMs > BRIEF && cuts.resistance))
      evidence.push({
        text: `With the load gone its voltage came back by ${cuts.sag.toFixed(1)} times what a good one’s would.`,
        decibans: shrunk(weightOf(WEIGHTS.sag, cuts.sag), cuts.list.length),
        group: 'ohms',
        spans: cuts.spans,
      });
    else if (isNumber(cuts.sagByTable) && !isNumber(cuts.sag) && !cuts.resistance)
      evidence.push({
        text: `Holding ${percent(cuts.held)} it stood at ${volts(cuts.soonVolts)} a 12 V block soon after the load came: ${cuts.sagByTable.toFixed(1)} times as far under its rest as a good one would.`,
        decibans: shrunk(weightOf(WEIGHTS.sag, cuts.sagByTable), cuts.list.length),
        group: 'ohms',
        spans: cuts.spans,
      });
    const sank = [cuts.rest - cuts.volts, cuts.underTable].find(isNumber) ?? NaN;
    if (evidence.length > 0 && isNumber(sank))
      evidence.push({
        text: `Under the load it stood ${volts(sank)} a 12 V block lower than ${isNumber(cuts.rest) ? 'with the load away' : 'it would at rest with that charge'}.`,
        decibans: shrunk(weightOf(WEIGHTS.sank, sank), cuts.list.length),
        group: 'sank',
        spans: cuts.spans,
      });
    if (evidence.length > 0 && isNumber(cuts.held))
      evidence.push({
        text: `${atCuts(cuts)} it held ${percent(cuts.held)} as a rule.`,
        decibans: shrunk(weightOf(WEIGHTS.held, cuts.held), cuts.list.length),
        group: 'held',
        spans: cuts.spans,
      });
    return evidence;
  },
  missing: missingCuts,
  remedy: () => ({
    text: 'Measure each block at its own posts under the load: one that sinks far more than the others is the one. Tighten and clean its joints first; a block that still sinks is worn.',
    caution: 'A battery can deliver thousands of amperes: insulated tools, no jewellery.',
  }),
};
