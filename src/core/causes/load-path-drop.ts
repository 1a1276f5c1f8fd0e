/** Joints or cable to a load: it sees an emptier battery than there is. */

import { isNumber } from '../quantity/numbers';
import { amps, percent, volts } from '../quantity/text';
import { blocksInSeries } from '../system/chemistry';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { atCuts, cuttingOf, drawnAt } from './cutting';
import { PATH_ANSWERS, PATH_WEIGHTS, weighPaths } from './paths';
import { LIVE } from './remedy';

const WEIGHTS = {
  /** V a block lost between battery and load at what it draws, by two voltages. */
  lost: [
    [0.6, 15],
    [0.4, 11],
    [0.25, 5],
    [0.12, -3],
    [-99, -11],
  ],
  /** V a block by which the load stood under the battery at cut-offs: two meters that were not read at one moment. */
  apart: [
    [0.6, 13],
    [0.4, 9],
    [0.25, 3],
    [0.12, -2],
    [-99, -9],
  ],
  /** V a block by which the battery stood above the limit at which the load went off. */
  over: [
    [0.5, 9],
    [0.3, 5],
    [0, 0],
  ],
  held: [
    [40, 3],
    [20, 0],
    [0, -6],
  ],
} as const;

export const loadPathDrop: Cause = {
  code: 'load-path-drop',
  title: 'Resistance between battery and load',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  families: [],
  needs: 'the cable’s length and size and the load’s current, or millivolts over each joint under load',
  signature: 'battery voltage less voltage at the load in proportion to the current',
  prior: { complained: -6, otherwise: -12 },
  onlyWhenSpokenOf: true,
  weights: { ...PATH_WEIGHTS, ...WEIGHTS },
  answers: PATH_ANSWERS,
  onSite: { 'load-path-loses': 12, 'load-path-sound': -8 },
  tests: {
    'millivolts-over-joints': [
      { name: 'on the way to the load a joint above 1 mΩ', ifHolds: 0.7, ifNot: 0.1 },
      { name: 'all of them well under', ifHolds: 0.3, ifNot: 0.9 },
    ],
  },
  described: (seen) =>
    weighPaths(
      seen,
      seen.system.loads.map((one) => ({ name: one.name, conductor: one.conductor, amps: one.usualA })),
    ),
  weigh(seen): Evidence[] {
    const blocks = blocksInSeries(seen.bank);
    const cuts = cuttingOf(seen);
    const evidence: Evidence[] = [];
    const worst = [...(seen.cutoffs?.paths ?? [])].sort((a, b) => b.ohms * b.amps - a.ohms * a.amps)[0];
    if (worst) {
      const drawn = drawnAt(cuts?.list ?? [], worst);
      const lost = (worst.ohms * drawn) / blocks;
      const name = seen.system.loads.find(({ id }) => id === worst.id)?.name ?? 'the load';
      evidence.push({
        text: `Between battery and ${name} lie ${(1000 * worst.ohms).toFixed(1)} mΩ: ${volts(worst.ohms * drawn)} are lost at ${amps(drawn)}.`,
        decibans: weightOf(WEIGHTS.lost, lost),
        group: 'lost',
        spans: cuts?.spans ?? [],
      });
    } else if (cuts && isNumber(cuts.apart)) {
      evidence.push({
        text: `${atCuts(cuts)} the load stood ${volts(cuts.apart * blocks)} under the battery.`,
        decibans: shrunk(weightOf(WEIGHTS.apart, cuts.apart), cuts.list.length),
        group: 'lost',
        spans: cuts.spans,
      });
    } else if (cuts) {
      const set = seen.system.loads.flatMap((one) =>
        one.cutoffV === undefined ? [] : [one.cutoffV / blocks],
      );
      const over = set.length > 0 && cuts.share('volts') > 0.5 ? cuts.volts - Math.max(...set) : NaN;
      if (over > 0.15)
        evidence.push({
          text: `The load went off at ${volts(Math.max(...set))} a 12 V block while the battery stood at ${volts(cuts.volts)}.`,
          decibans: weightOf(WEIGHTS.over, over),
          group: 'lost',
          spans: cuts.spans,
        });
    }
    if (evidence.some((one) => one.decibans > 0) && cuts && isNumber(cuts.held))
      evidence.push({
        text: `${atCuts(cuts)} the battery held ${percent(cuts.held)} as a rule.`,
        decibans: weightOf(WEIGHTS.held, cuts.held),
        group: 'held',
        spans: cuts.spans,
      });
    return evidence;
  },
  remedy: () => ({
    text: 'Measure millivolts over each joint and fuse under the load; clean and tighten what is above a milliohm, and size the cable for the largest current.',
    caution: LIVE,
  }),
  missing: ({ cutoffs }) =>
    cutoffs && cutoffs.paths.length > 0 ? [] : ['millivolts over each joint under load'],
};
