/** Nothing is wrong with the counting: the error has only had too long to grow. */

import type { Charge } from '../charge/types';
import { DAY, mergeSpans, type Span } from '../quantity/span';
import { counted, duration, percent, points } from '../quantity/text';
import { daysWithoutFull } from '../system/schools';
import { type Bands, type Cause, type Evidence, weightOf } from './cause';
import { countOf, DRIFT_PRIOR, missingMonitor } from './drifting';

const WEIGHTS = {
  /** Longest time without a full charge over what the school allows. */
  times: [
    [2.5, 15],
    [1.7, 13],
    [1.2, 8],
    [1, 4],
    [0, -9],
  ],
  /** Points of drift a day: what a good monitor is off by, or more than that. */
  slow: 4,
  fast: -4,
  /** A full charge came, and set nothing. */
  missed: -10,
} as const satisfies Record<string, Bands | number>;

/** Points a day that a well-set monitor may be off by (common practice, no source). */
const GOOD = 2.5;

/** Hours of a day that a log has to cover for it to count. */
const LOGGED = 8;

const overlap = (a: Span, b: Span): number => Math.min(a.to, b.to) - Math.max(a.from, b.from);

/** From its absorption on a charge that filled the battery kept it full: a charger may hold its float for weeks. */
function stoodFull({ full, stages, to }: Charge): Span[] {
  const reached = stages.find((one) => one.stage === 'absorption' || one.stage === 'float');
  return full && reached ? [{ from: reached.stage === 'absorption' ? reached.to : reached.from, to }] : [];
}

export const fullTooRarely: Cause = {
  code: 'full-too-rarely',
  title: 'Full charges come too seldom to keep the reading true',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['counting'],
  needs: 'a log that is longer than the time in which a full charge is asked for',
  signature: 'longer between full charges than the school allows, and an error that grows as it should',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  onSite: { 'long-since-full': 8, 'lately-full': -6 },
  tests: {
    'full-charge-and-sync': [
      {
        name: 'the reading jumps by what the days explain, and stays right for a week',
        ifHolds: 0.85,
        ifNot: 0.3,
      },
      { name: 'it is soon off again', ifHolds: 0.15, ifNot: 0.7 },
    ],
  },
  weigh(seen): Evidence[] {
    const count = countOf(seen);
    if (!count) return [];
    const { logged, fulls, syncs, missed, intervals } = count;
    const allowed = daysWithoutFull(seen.system);
    const set: Span[] = mergeSpans([
      ...fulls.map(({ to }) => ({ from: to, to })),
      ...seen.charging.flatMap(({ charges }) => charges.flatMap(stoodFull)),
      ...syncs.filter((one) => one.judged !== 'false').map(({ at }) => ({ from: at, to: at })),
    ]);
    const apart: Span[] = [...set, { from: logged.to, to: logged.to }].map((one, i) => ({
      from: i === 0 ? logged.from : set[i - 1]!.to,
      to: one.from,
    }));
    // A charge that came while nobody logged was a charge all the same: only days that were logged count.
    const seenFor = (span: Span) =>
      seen.days.reduce((sum, day) => sum + (day.hours >= LOGGED ? Math.max(0, overlap(day, span)) : 0), 0);
    let longest = { from: logged.from, to: logged.from };
    let without = 0;
    for (const span of apart) {
      const length = seenFor(span);
      if (length > without) [longest, without] = [span, length];
    }
    const times = without / (allowed * DAY);
    // A log that is shorter than that says nothing either way.
    if (times < 1 && seenFor(logged) < allowed * DAY) return [];
    const evidence: Evidence[] = [
      {
        text: `For ${duration(without)} no charge filled the battery; a full one is asked for every ${counted(allowed, 'day')} here.`,
        decibans: weightOf(WEIGHTS.times, times),
        group: 'days',
        spans: [longest],
      },
    ];
    if (times < 1) return evidence;
    const full = missed.filter((one) => one.full);
    if (full.length > 0)
      evidence.push({
        text: `${counted(full.length, 'full charge')} came, and set nothing right.`,
        decibans: WEIGHTS.missed,
        group: 'missed',
        spans: full,
      });
    const long = intervals.filter((one) => one.to - one.from > 3 * DAY && one.deviation < 12);
    if (long.length > 0) {
      const days = long.reduce((sum, one) => sum + (one.to - one.from) / DAY, 0);
      const daily = long.reduce((sum, one) => sum + Math.abs(one.drift), 0) / days;
      evidence.push({
        text: `Meanwhile the reading walked by ${points(daily)} a day, ${daily <= GOOD ? 'no more than a well-set monitor' : 'which is more than a well-set monitor does'}.`,
        decibans: daily <= GOOD ? WEIGHTS.slow : WEIGHTS.fast,
        group: 'rate',
        spans: long,
      });
    }
    return evidence;
  },
  remedy({ system, counting }) {
    const off = counting?.off;
    return {
      text: `Fill the battery every ${counted(daysWithoutFull(system), 'day')}, by mains or generator where the usual source cannot, until the charger itself says float and the reading goes to 100 %.${off && Math.abs(off.last) > 5 ? ` At the end of this log it was ${percent(Math.abs(off.last))} off.` : ''}`,
      caution: null,
    };
  },
  missing: (seen, evidence) => [
    ...missingMonitor(seen),
    ...(seen.counting && evidence.length === 0
      ? ['a log longer than the time in which a full charge is asked for']
      : []),
  ],
};
