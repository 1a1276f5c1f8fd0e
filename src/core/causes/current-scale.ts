/** The monitor's current is at a fixed ratio to the true one: another shunt than it is set to. */

import { percent } from '../quantity/text';
import { type Bands, type Cause, type Evidence, shrunk, weightOf } from './cause';
import { countOf, DRIFT_PRIOR, missingMonitor } from './drifting';
import { GOOD_SHARE, isPlainlyOff } from '../count/trueCurrent';
import { LIVE } from './remedy';

const WEIGHTS = {
  /** How far the ratio is from one, in its own errors; and how large it is. */
  sure: [
    [5, 15],
    [3, 14],
    [2, 9],
    [1, 3],
    [0, 0],
  ],
  /** The ratio is one, by this many devices. */
  right: -13,
  /** Chargers show in it by parts that lie apart by more than their errors. */
  differ: -4,
} as const satisfies Record<string, Bands | number>;

/** Parts that lie apart by so many of their errors are no one ratio. */
const APART = 3;

/** Shares of a charger and of a load within so much are one ratio. */
const SAME = 0.05;

export const currentScale: Cause = {
  code: 'current-scale',
  title: 'The monitor’s current is scaled wrongly',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['counting'],
  needs: 'the current of a charger or of the BMS beside the monitor’s',
  signature: 'battery current against charger current at a fixed ratio that is not one',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  onSite: { 'scale-off': 15, 'scale-right': -12 },
  tests: {
    'clamp-each-conductor': [
      { name: 'the monitor shows a fixed part of the clamp’s current', ifHolds: 0.9, ifNot: 0.03 },
      { name: 'the two agree', ifHolds: 0.1, ifNot: 0.97 },
    ],
  },
  weigh(seen): Evidence[] {
    const count = countOf(seen);
    if (!count) return [];
    const { shares, bms } = count.meters;
    const told = [
      ...(bms && bms.slopeError < 0.5
        ? [{ name: 'the BMS', share: bms.slope, error: Math.max(bms.slopeError, 0.01), steps: 30 }]
        : []),
      ...shares
        .filter((one) => one.kind === 'source')
        .map((one) => ({
          name: seen.system.sources.find(({ id }) => id === one.id)?.name ?? one.id,
          share: one.share,
          error: Math.max(one.error, 0.02),
          steps: one.steps,
        })),
    ].filter((one) => (one.error < 0.15 || isPlainlyOff(one)) && one.share < 2.6);
    // Nothing at all, or the wrong way round, is another fault.
    const seenAtAll = told.filter((one) => one.share > 0.2);
    if (seenAtAll.length === 0) return [];
    const good = seenAtAll.filter((one) => one.share > GOOD_SHARE.low && one.share < GOOD_SHARE.high);
    if (good.length > 0)
      return [
        {
          text: `The monitor’s current is that of ${good.map((one) => one.name).join(' and ')}, within ${percent(100 * Math.max(0.01, ...good.map((one) => Math.abs(one.share - 1))))}.`,
          decibans: shrunk(WEIGHTS.right, Math.max(...good.map((one) => one.steps))),
          group: 'ratio',
          spans: [count.logged],
        },
      ];
    const best = seenAtAll.reduce((a, b) => (b.error < a.error ? b : a));
    const other = seenAtAll.find(
      (one) => Math.abs(one.share - best.share) > APART * Math.hypot(one.error, best.error),
    );
    if (other && !bms)
      return [
        {
          text: `The monitor moves by ${percent(100 * best.share)} of the current of ${best.name}, but by ${percent(100 * other.share)} of that of ${other.name}: a shunt would show both alike.`,
          decibans: WEIGHTS.differ,
          group: 'ratio',
          spans: [count.logged],
        },
      ];
    const edge = best.share < 1 ? GOOD_SHARE.low : GOOD_SHARE.high;
    const sure = Math.abs(best.share - edge) / best.error;
    // A load that shows in the same ratio is another witness.
    const loads = shares.filter(
      (one) => one.kind === 'load' && one.error < SAME && Math.abs(one.share - best.share) < SAME,
    );
    const steps = loads.reduce((sum, one) => sum + one.steps, best.steps);
    return [
      {
        text: `When the current of ${best.name} moves, the monitor’s moves by ${percent(100 * best.share)} of it (give or take ${percent(200 * best.error)}).`,
        decibans: shrunk(weightOf(WEIGHTS.sure, sure), 2 * steps),
        group: 'ratio',
        spans: [count.logged],
      },
    ];
  },
  remedy: ({ counting }) => ({
    text: `Read what is stamped on the shunt (millivolts at amperes) and set the monitor to it${counting && counting.wrong.gain > 0 && counting.wrong.gain !== 1 ? `: it now shows ${percent(100 * counting.wrong.gain)} of the true current` : ''}; then hold a clamp meter against it at a large current.`,
    caution: LIVE,
  }),
  missing: (seen, evidence) => [
    ...missingMonitor(seen),
    ...(seen.counting && evidence.length === 0
      ? ['the log of a charger or of the BMS beside the monitor’s']
      : []),
  ],
};
