/** The monitor was never synchronised: its reading began anywhere. */

import { counted, percent, points } from '../quantity/text';
import { type Bands, type Cause, type Evidence, weightOf } from './cause';
import { countOf, DRIFT_PRIOR, missingMonitor, over, seenSyncs } from './drifting';

const WEIGHTS = {
  /** The reading is off by so many points from the first hours on, in standard deviations of the truth. */
  offFromStart: [
    [4, 13],
    [2.5, 10],
    [1.5, 5],
    [0.7, 0],
    [0, -5],
  ],
  /** No sync in the whole log, whether or not a charge could have brought one. */
  noSync: 4,
  synced: -13,
  /** Configured: it was started at a value that nobody measured. */
  configuredStart: 4,
  /** From start to end it is off by the same. */
  constant: 3,
} as const satisfies Record<string, Bands | number>;

const HOURS = 24;
/** Points that a reading may be off without anybody being called. */
const LEAST = 10;

export const neverStarted: Cause = {
  code: 'never-started',
  title: 'The monitor was never synchronised',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['reading'],
  needs: 'the monitor’s percentage, and a rest, a full charge or a BMS that tells the true state',
  signature: 'no sync, and a reading that is off by the same all along',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  onSite: { 'never-synced': 8, 'has-synced': -8 },
  tests: {
    'full-charge-and-sync': [
      { name: 'the reading jumps far, and is right afterwards', ifHolds: 0.9, ifNot: 0.25 },
      { name: 'it hardly moves', ifHolds: 0.1, ifNot: 0.75 },
    ],
  },
  described({ system }): Evidence[] {
    const start = system.monitor?.startPercent;
    if (start === undefined) return [];
    return [
      {
        text: `When it was installed the monitor began at ${percent(start)}.`,
        decibans: WEIGHTS.configuredStart,
        group: 'told',
        spans: [],
      },
    ];
  },
  weigh(seen): Evidence[] {
    const count = countOf(seen);
    if (!count) return [];
    const { fulls, hourly, off } = count;
    const syncs = seenSyncs(count);
    if (syncs.length > 0)
      return [
        {
          text: `The reading was set to full ${syncs.length === 1 ? 'once' : `${syncs.length} times`} in this log.`,
          decibans: WEIGHTS.synced,
          group: 'syncs',
          spans: [],
        },
      ];
    const evidence: Evidence[] = [];
    evidence.push({
      text: `Nothing was seen to set the reading to full in the whole log, ${fulls.length === 0 ? 'and no charge could have' : `though ${counted(fulls.length, 'charge')} filled the battery`}.`,
      decibans: WEIGHTS.noSync,
      group: 'syncs',
      spans: [count.logged],
    });
    const first: number[] = [];
    let band = 0;
    for (let k = 0; k < Math.min(HOURS, hourly.reported.length); k++) {
      const difference = hourly.reported[k]! - hourly.reference[k]!;
      if (difference !== difference) continue;
      first.push(difference);
      band = Math.max(band, hourly.band[k]! / 2);
    }
    if (first.length >= 6) {
      const start = first.reduce((a, b) => a + b, 0) / first.length;
      const sigmas = Math.abs(start) < LEAST ? 0 : Math.abs(start) / Math.max(4, band);
      evidence.push({
        text: `In the first ${counted(first.length, 'hour')} of the log the reading is ${points(start)} ${over(start)}.`,
        decibans: weightOf(WEIGHTS.offFromStart, sigmas),
        group: 'start',
        spans: [{ from: hourly.from, to: hourly.from + first.length * hourly.stepMs }],
      });
      if (off && sigmas >= 1.5 && Math.abs(off.last - start) < Math.abs(start) / 2)
        evidence.push({
          text: `At the end it is ${points(off.last)} ${over(off.last)}: nearly the same.`,
          decibans: WEIGHTS.constant,
          group: 'constant',
          spans: [count.logged],
        });
    }
    return evidence;
  },
  remedy: ({ bank }) => ({
    text: `Charge until the charger itself says float, by the fastest source there is, and see that the reading goes to 100 %.${bank.chemistry === 'lfp' ? ' A new lithium battery comes at about 30 %: the monitor can be told that once. Never set it by hand from a voltage in the flat part.' : ''}`,
    caution: null,
  }),
  missing: missingMonitor,
};
