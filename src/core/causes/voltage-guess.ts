/** The percentage is made from the voltage: it counts nothing. */

import { points, share } from '../quantity/text';
import { type Bands, type Cause, type Evidence, shrunk, weightOf } from './cause';

import { DRIFT_PRIOR, missingMonitor } from './drifting';
import { isMadeFromVolts, resetsIn } from './reading';

const WEIGHTS = {
  told: 15,
  counts: -2,
  /** Share of the voltage's steps at which the reading jumped along. */
  jumps: [
    [0.2, 15],
    [0.1, 11],
    [0.05, 5],
    [0.01, 0],
    // A slow display goes along later.
    [0, -4],
  ],
  /** It moves with what flows, as a count does. */
  countsWell: -12,
  /** What flows explains all but this part of how it moves. */
  countsBadly: [
    [0.3, 15],
    [0, 12],
  ],
} as const satisfies Record<string, Bands | number>;

/** Fewer jumps than this may be anything. So many steps, and at so many of them a jump, are plain; so is what flows when it explains less. */
const FEWEST = 3;
const PLAIN = { steps: 20, part: 0.4, flow: 0.7 };

export const voltageGuess: Cause = {
  code: 'voltage-guess',
  title: 'The percentage is guessed from the voltage',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['reading'],
  needs: 'the percentage and the voltage while loads or chargers come and go',
  signature: 'the reading jumps with each load and charger, with hardly any charge moved',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  tests: {
    'load-step': [
      { name: 'the percentage falls at once, and comes back after', ifHolds: 0.95, ifNot: 0.02 },
      { name: 'it moves slowly', ifHolds: 0.05, ifNot: 0.98 },
    ],
  },
  described({ system, counting }): Evidence[] {
    const method = system.monitor?.method;
    if (!method) return [];
    // What the reading plainly does goes before what was told of it.
    const { jumps = 0, steps = 0 } = counting?.followsVolts ?? {};
    const plainly =
      (steps >= PLAIN.steps && jumps >= PLAIN.part * steps) ||
      (counting && isMadeFromVolts(counting) && (counting.behaves?.explained ?? 1) < PLAIN.flow);
    if (method !== 'voltage' && plainly) return [];
    return [
      {
        text:
          method === 'voltage'
            ? 'The monitor makes its percentage from the voltage.'
            : 'The monitor is said to count current.',
        decibans: method === 'voltage' ? WEIGHTS.told : WEIGHTS.counts,
        group: 'told',
        spans: [],
      },
    ];
  },
  weigh({ counting, system }): Evidence[] {
    if (!counting) return [];
    const { followsVolts: found, behaves } = counting;
    const evidence: Evidence[] = [];
    // How the device works is known: that its reading looks like a count takes nothing from it.
    const isConfigured = system.monitor?.method === 'voltage';
    // A count that is reset at the same value jumps too, though seldom.
    const resets = resetsIn(counting).same.length;
    const countless = !behaves || behaves.explained < 0.8;
    if (
      found &&
      found.steps >= 5 &&
      (found.jumps === 0
        ? !isConfigured && !isMadeFromVolts(counting)
        : found.jumps >= FEWEST && (countless || found.jumps > resets))
    )
      evidence.push({
        text:
          found.jumps === 0
            ? `At none of ${found.steps} steps of the voltage did the reading jump along.`
            : `At ${share(found.jumps, found.steps, 'step')} of the voltage the reading jumped along, by ${points(found.points)} more than what flowed.`,
        decibans: shrunk(
          weightOf(WEIGHTS.jumps, found.jumps / found.steps),
          found.jumps === 0 ? found.steps / 3 : found.jumps,
        ),
        group: 'jumps',
        spans: found.spans,
      });
    if (behaves && behaves.explained > 0.93)
      evidence.push({
        text: 'The reading moves by what flows in and out, as a count does.',
        decibans: isConfigured ? 0 : WEIGHTS.countsWell,
        group: 'counts',
        spans: [counting.logged],
      });
    else if (isMadeFromVolts(counting))
      evidence.push({
        text: 'The same voltage gives the same reading, and what flows in and out hardly moves it.',
        decibans: weightOf(WEIGHTS.countsBadly, 1 - (behaves?.explained ?? 1)),
        group: 'counts',
        spans: [counting.logged],
      });
    return evidence;
  },
  remedy: ({ bank }) => ({
    text: `Believe no percentage of it: under load, just after charging${bank.chemistry === 'lfp' ? ', and anywhere on the flat curve of lithium' : ''} a voltage says nothing. Fit a monitor that counts, or read the rest voltage after some hours with everything off.`,
    caution: null,
  }),
  missing: missingMonitor,
};
