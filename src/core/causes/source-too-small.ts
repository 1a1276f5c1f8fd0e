/** The charger or the sun gives too few hours or amperes for what is drawn. */

import type { SourceCharging, Stage } from '../charge/types';
import type { Counting } from '../count/types';
import { isNumber, sum } from '../quantity/numbers';
import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { HOUR, overlaps } from '../quantity/span';
import { ampHours, amps, capital, celsius, duration, percent, points, share } from '../quantity/text';
import { type Cause, type DayBalance, type Evidence, type Judged, shrunk, weightOf } from './cause';

const WEIGHTS = {
  /** Share of days on which charging did not get past bulk. */
  daysInBulk: [
    [0.8, 11],
    [0.6, 7],
    [0.4, 1],
    [0.2, -5],
    [0, -12],
  ],
  /** Ah in for each Ah out, when most days end in bulk. */
  returned: [
    [1.1, -4],
    [1.04, 0],
    [1, 4],
    [0.8, 7],
    [0, 10],
  ],
  /** Points by which the highest charge of a day sinks over the log, from day to day, when many days end in bulk. */
  sinks: [
    [15, 8],
    [8, 6],
    [0, 0],
  ],
  /** The source gives its rating and still does not finish; it gives far less than its rating. */
  atRating: 5,
  farBelowRating: -8,
  /** Lithium in the cold: what goes in, in parts of what comes out. */
  mayBeCold: [
    [0.9, 0],
    [0.3, -4],
    [0, -7],
  ],
} as const;

/** The supply went before absorption had lasted so long, while so much of capacity and more still flowed: that day was not long enough. */
const UNFINISHED = { ms: HOUR, part: 0.035 };

/** A battery sinks that does so on so many days at least, from nearly each to the next; where charging stuck in bulk on this part of them. */
const SINKS = { fewest: 5, mostly: 0.8, stuck: 0.4 };

/** °C under which a charge of lithium may be refused. */
const COLD = 6;

export const sourceTooSmall: Cause = {
  code: 'source-too-small',
  title: 'The source is too small for what is drawn',
  complaint: 'undercharging',
  chemistries: 'all',
  families: ['charging'],
  needs:
    'voltage and current of the charger or the battery over several whole days; the battery’s own current gives the balance',
  signature: 'bulk never ends on most days, and what goes in does not make up for what comes out',
  prior: { complained: -5, otherwise: -10 },
  weights: WEIGHTS,
  answers: {
    panels: { found: 5, fine: -1, text: 'Panels were found dirty or shaded.' },
    'shade-morning': { found: 3, fine: -1, text: 'Panels were found shaded in the morning.' },
    'shade-afternoon': { found: 3, fine: -1, text: 'Panels were found shaded in the afternoon.' },
  },
  remedy: () => ({
    text: 'Draw less, charge longer, or add to the source until a day’s charge is put back in a usual day, with a tenth more for losses. Until then bring the battery to full once a week from whatever there is: it sulphates meanwhile.',
    caution: null,
  }),
  tests: {
    'balance-over-a-week': [
      { name: 'less goes in than comes out', ifHolds: 0.85, ifNot: 0.1 },
      { name: 'more goes in than comes out', ifHolds: 0.15, ifNot: 0.9 },
    ],
    'mains-top-up': [
      { name: 'full once, then sinking again day by day', ifHolds: 0.85, ifNot: 0.2 },
      { name: 'stays full', ifHolds: 0.15, ifNot: 0.8 },
    ],
  },
  weigh(seen) {
    const whole = daysOfCharging(seen);
    return whole.length === 0 ? [] : weighDays(whole, seen);
  },
  missing: ({ charging, days }) =>
    charging.length > 0 && wholeDays(days).length === 0 ? ['a log of at least one whole day'] : [],
};

const wholeDays = (days: readonly DayBalance[]): DayBalance[] => days.filter((day) => day.hours >= 20);

/**
 * An engine that is run every third day is not too small for that: days without it are left out, and one day with it shows nothing. The
 * sun comes every day, be it ever so weak.
 */
function daysOfCharging({ days, charging }: Judged): DayBalance[] {
  const whole = wholeDays(days);
  const charged = whole.filter((day) => day.reached !== 'nothing');
  const rests = charging.length > 0 && charging.every(({ source }) => source?.kind === 'generator');
  if (!rests) return whole;
  return charged.length >= 2 ? charged : [];
}

/** The charges of a day came to absorption and lost their source soon after, with the battery still taking much. @param stages of the day */
function isUnfinished(stages: readonly Stage[], capacityAh: number): boolean {
  const absorbed = stages.filter((one) => one.stage === 'absorption');
  return (
    absorbed.length > 0 &&
    stages.every((one) => one.stage === 'bulk' || one.stage === 'off' || one.stage === 'absorption') &&
    absorbed.every((one) => one.endedBy === 'source-lost' && !one.cutOff && !one.blocked) &&
    sum(absorbed.map((one) => one.heldMs)) < UNFINISHED.ms &&
    Math.min(...absorbed.map((one) => one.endAmps)) >= UNFINISHED.part * capacityAh
  );
}

/** Lithium is as good as full at the voltage: of lead alone. */
function unfinishedDays(
  days: readonly DayBalance[],
  charging: readonly SourceCharging[],
  bank: KnownBank,
): DayBalance[] {
  if (!isLead(bank.chemistry)) return [];
  const stages = charging.flatMap(({ charges }) => charges.flatMap((one) => one.stages));
  return days.filter(
    (day) =>
      day.reached === 'absorption' &&
      isUnfinished(
        stages.filter((one) => overlaps(one, day)),
        bank.capacityAh,
      ),
  );
}

function daysText(days: number, inBulk: number, unfinished: number): string {
  const parts: string[] = [];
  if (inBulk > 0) parts.push(`charging did not get past bulk on ${share(inBulk, days, 'day')}`);
  if (unfinished > 0)
    parts.push(
      `on ${share(unfinished, days, 'day')} the supply went before absorption had lasted ${duration(UNFINISHED.ms)}, while the battery still took more than ${percent(100 * UNFINISHED.part)} of its capacity`,
    );
  return parts.length > 0
    ? `${capital(parts.join(', and '))}.`
    : `Charging got past bulk on ${share(days, days, 'day')}.`;
}

/** Points by which the highest charge of a day sank over the log; null where it did not from nearly every day to the next. */
function sinksDaily(days: readonly DayBalance[], counting: Counting | null): number | null {
  if (!counting) return null;
  const { from, stepMs, reference } = counting.hourly;
  const hourOf = (ms: number) => Math.max(0, Math.ceil((ms - from) / stepMs));
  const tops = days
    .map((day) => Math.max(...reference.subarray(hourOf(day.from), hourOf(day.to)).filter(isNumber)))
    .filter((one) => one >= 0);
  const falls = tops.slice(1).filter((one, k) => one < tops[k]!).length;
  if (tops.length < SINKS.fewest || falls < SINKS.mostly * (tops.length - 1)) return null;
  return tops[0]! - tops.at(-1)!;
}

function weighDays(days: DayBalance[], { charging, counting, bank }: Judged): Evidence[] {
  const inBulk = days.filter((day) => day.reached === 'bulk' || day.reached === 'nothing');
  const unfinished = unfinishedDays(days, charging, bank);
  const short = [...inBulk, ...unfinished];
  const stuck = short.length / days.length;
  const evidence: Evidence[] = [
    {
      text: daysText(days.length, inBulk.length, unfinished.length),
      decibans: shrunk(weightOf(WEIGHTS.daysInBulk, stuck), days.length),
      group: 'days',
      spans: short,
    },
  ];

  const balanced = days.filter(
    (day) => day.ampHoursOut === day.ampHoursOut && day.ampHoursOut + day.ampHoursIn > 0,
  );
  const into = sum(balanced.map((day) => day.ampHoursIn));
  const out = sum(balanced.map((day) => day.ampHoursOut));
  if (balanced.length >= 3 && out > 0.1 * bank.capacityAh) {
    const returned = into / out;
    const decibans = weightOf(WEIGHTS.returned, returned);
    // A balance near even says little by itself: a battery that is kept full shows the same.
    if (decibans < 0 || stuck >= 0.4)
      evidence.push({
        text: `Over ${share(balanced.length, days.length, 'day')} ${ampHours(into)} went in and ${ampHours(out)} came out: ${percent(100 * returned)} was put back, where losses alone ask for more than 100 %.`,
        // One that began low may take in more than it gives for weeks, and still never get full.
        decibans: shrunk(stuck >= 0.8 ? Math.max(decibans, -1) : decibans, balanced.length),
        group: 'balance',
        spans: [],
      });
  }

  const sank = stuck >= SINKS.stuck ? sinksDaily(days, counting) : null;
  if (sank !== null && weightOf(WEIGHTS.sinks, sank) > 0)
    evidence.push({
      text: `The highest charge of a day sank from day to day, by ${points(sank)} in all.`,
      decibans: shrunk(weightOf(WEIGHTS.sinks, sank), days.length),
      group: 'sinks',
      spans: [],
    });

  const coldest = Math.min(...charging.map((one) => one.setpoints.coldest ?? Infinity));
  const mayBeCold = out > 0 ? weightOf(WEIGHTS.mayBeCold, into / out) : 0;
  if (!isLead(bank.chemistry) && coldest < COLD && mayBeCold < 0)
    evidence.push({
      text: `${ampHours(into)} went in for ${ampHours(out)} that came out, and the battery was as cold as ${celsius(coldest)}: in the cold lithium is not charged, however large the source.`,
      decibans: mayBeCold,
      group: 'cold',
      spans: [],
    });

  if (stuck >= 0.4)
    for (const { source, bulkAmps, knowsOwnAmps } of charging) {
      // The battery's current alone is what the loads leave of it.
      if (!source?.ratedA || !(bulkAmps > 0) || !knowsOwnAmps) continue;
      const part = bulkAmps / source.ratedA;
      if (source.kind !== 'solar' && part < 0.7)
        evidence.push({
          text: `${source.name} gave at most ${amps(bulkAmps)} of its ${amps(source.ratedA)} in bulk: it is not its size that falls short.`,
          decibans: WEIGHTS.farBelowRating,
          group: 'rating',
          spans: [],
        });
      else if (part >= 0.85)
        evidence.push({
          text: `${source.name} gave its rating (${amps(bulkAmps)} of ${amps(source.ratedA)}) and still did not finish.`,
          decibans: WEIGHTS.atRating,
          group: 'rating',
          spans: [],
        });
    }
  return evidence;
}
