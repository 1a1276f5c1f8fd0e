/** The monitor lost its supply, and its count. */

import { MINUTE } from '../quantity/span';
import type { Jump } from '../count/types';
import { duration, percent } from '../quantity/text';
import type { Cause, Evidence } from './cause';
import { countOf, DRIFT_PRIOR, missingMonitor } from './drifting';

const WEIGHTS = {
  /** A silence, then another reading than before it, that no charge meanwhile explains. */
  jumpAfterSilence: 15,
  /** The same, to full, with the battery charged: a charge that came to its end in the silence sets it so too. */
  jumpToFullCharged: 3,
  /** The same between two readings of a log that is written too seldom to show a silence. */
  jumpBetween: 11,
  /** And far down: a sync goes up, and what is drawn takes hours. */
  fellBetween: 14,
  /** The same without a silence: it may also have been set by hand. */
  jumpAlone: 5,
  /** One value to which it goes after every silence. */
  sameValue: 3,
  noJump: -8,
  /** Fed from behind a switch. */
  switchable: 6,
} as const;

/** Points that no load takes off a reading: so many, and so many times what the largest current of the log would have. */
const FELL = { points: 25, times: 2.5 };
/** Entries so far apart may hide a silence; a reading with more jumps than this is made otherwise. */
const HIDES = { ms: 5 * MINUTE, most: 4 };

export const monitorRestarted: Cause = {
  code: 'monitor-restarted',
  title: 'The monitor lost its supply and its count',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['reading'],
  needs: 'the monitor’s percentage over the time in which it was lost',
  signature: 'a gap in its log, then a reading that starts anew',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  onSite: { 'count-lost': 14 },
  tests: {
    'supply-lead': [
      { name: 'a loose lead, a poor fuse, or fed from behind a switch', ifHolds: 0.85, ifNot: 0.06 },
      { name: 'straight to the battery, and tight', ifHolds: 0.15, ifNot: 0.94 },
    ],
  },
  described: ({ job }) =>
    job.walk?.senseLead === 'fuse-box'
      ? [
          {
            text: 'Its lead is fed from a fuse box that can be switched off.',
            decibans: WEIGHTS.switchable,
            group: 'supply',
            spans: [],
          },
        ]
      : [],
  weigh(seen): Evidence[] {
    const count = countOf(seen);
    if (!count) return [];
    const large = count.jumps.filter((one) => Math.abs(one.to - one.from) > 8);
    const unseen = large.filter((one) => one.silentMs > 0);
    const lost = unseen.filter((one) => !one.mayBeSync);
    const silent = lost.length > 0 ? lost : unseen;
    const between = large.filter((one) => one.sinceMs >= HIDES.ms && !one.mayBeSync);
    if (silent.length > 0) {
      const charged =
        lost.length > 0
          ? ''
          : ' By its voltage the battery was charged meanwhile: a charge that came to its end sets the reading to full too.';
      return [
        {
          text: `${times(silent)} the monitor’s log is silent (${duration(silent[0]!.silentMs)}) and its reading then another: ${readingsOf(silent)}.${charged}`,
          decibans: weightOfSilence(lost.length, count.jumps.filter((one) => one.silentMs === 0).length),
          group: 'restart',
          spans: silent.map(({ at, silentMs }) => ({ from: at - silentMs - MINUTE, to: at + MINUTE })),
        },
        ...sameValue(silent),
      ];
    }
    if (between.length > 0 && large.length <= HIDES.most)
      return [
        {
          text: `${times(between)} the reading is another from one entry of the log to the next (${duration(between[0]!.sinceMs)} apart): ${readingsOf(between)}. A short silence leaves no gap in such a log.`,
          decibans: between.every(fell) ? WEIGHTS.fellBetween : WEIGHTS.jumpBetween,
          group: 'restart',
          spans: between.map(({ at, sinceMs }) => ({ from: at - sinceMs - MINUTE, to: at + MINUTE })),
        },
        ...sameValue(between),
      ];
    return [
      {
        text:
          large.length > 0
            ? `The reading jumps ${large.length === 1 ? 'once' : `${large.length} times`} with no silence before: something else sets it.`
            : 'The reading goes on from where it was, all through the log.',
        decibans: WEIGHTS.noJump,
        group: 'restart',
        spans: [count.logged],
      },
    ];
  },
  remedy: () => ({
    text: 'Take the monitor’s supply straight from the battery positive, through its own fuse, before any switch; tighten it; then charge until the charger says float, and see that the reading goes to 100 %.',
    caution: null,
  }),
  missing: missingMonitor,
};

const fell = ({ from, to, couldFall }: Jump): boolean =>
  from - to > FELL.points && from - to > FELL.times * couldFall;

const times = (some: readonly Jump[]): string => (some.length === 1 ? 'Once' : `${some.length} times`);

const readingsOf = (some: readonly Jump[]): string =>
  some
    .slice(0, 3)
    .map((one) => `${percent(one.from)} before, ${percent(one.to)} after`)
    .join('; ');

/** Each silence may have eaten a point or two of what is drawn. */
function sameValue(some: readonly Jump[]): Evidence[] {
  const isSame = some.length > 1 && some.every((one) => Math.abs(one.to - some[0]!.to) < 2);
  if (!isSame) return [];
  return [
    {
      text: 'Each time it came back at the same value.',
      decibans: WEIGHTS.sameValue,
      group: 'same',
      spans: [],
    },
  ];
}

/** @param lost silences that no charge explains @param others jumps without a silence: a reading with more of them is made otherwise */
function weightOfSilence(lost: number, others: number): number {
  if (lost === 0) return WEIGHTS.jumpToFullCharged;
  return others > lost + 1 ? WEIGHTS.jumpAlone : WEIGHTS.jumpAfterSilence;
}
