/** The monitor lost its supply, and its count. */

import { MINUTE } from '../quantity/span';
import { duration, percent } from '../quantity/text';
import type { Cause, Evidence } from './cause';
import { countOf, DRIFT_PRIOR, missingMonitor } from './drifting';

const WEIGHTS = {
  /** A silence, then another reading than before it, that no charge meanwhile explains. */
  jumpAfterSilence: 15,
  /** The same, to full, with the battery charged: a charge that came to its end in the silence sets it so too. */
  jumpToFullCharged: 3,
  /** The same without a silence: it may also have been set by hand. */
  jumpAlone: 5,
  /** One value to which it goes after every silence. */
  sameValue: 3,
  /** Silences that left the reading as it was. */
  steady: -8,
  noJump: -8,
  /** Fed from behind a switch. */
  switchable: 6,
} as const;

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
    const unseen = count.jumps.filter((one) => one.silentMs > 0 && Math.abs(one.to - one.from) > 8);
    const lost = unseen.filter((one) => !one.mayBeSync);
    const silent = lost.length > 0 ? lost : unseen;
    if (silent.length > 0) {
      const [first] = silent;
      const same = silent.length > 1 && silent.every((one) => Math.abs(one.to - first!.to) < 2);
      const readings = silent
        .slice(0, 3)
        .map((one) => `${percent(one.from)} before, ${percent(one.to)} after`)
        .join('; ');
      const charged =
        lost.length > 0
          ? ''
          : ' The battery stood at its charged voltage: a charge that came to its end meanwhile sets it to full too.';
      return [
        {
          text: `${silent.length === 1 ? 'Once' : `${silent.length} times`} the monitor’s log is silent (${duration(first!.silentMs)}) and its reading then another: ${readings}.${charged}`,
          decibans: weightOfSilence(lost.length, count.jumps.filter((one) => one.silentMs === 0).length),
          group: 'restart',
          spans: silent.map(({ at, silentMs }) => ({ from: at - silentMs - MINUTE, to: at + MINUTE })),
        },
        ...(same
          ? [
              {
                text: 'Each time it came back at the same value.',
                decibans: WEIGHTS.sameValue,
                group: 'same',
                spans: [],
              },
            ]
          : []),
      ];
    }
    return [
      {
        text: 'The reading goes on from where it was, all through the log.',
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

/** @param lost silences that no charge explains @param others jumps without a silence: a reading with more of them is made otherwise */
function weightOfSilence(lost: number, others: number): number {
  if (lost === 0) return WEIGHTS.jumpToFullCharged;
  return others > lost + 1 ? WEIGHTS.jumpAlone : WEIGHTS.jumpAfterSilence;
}
