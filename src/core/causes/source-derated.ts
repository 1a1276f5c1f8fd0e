/** A charger gives less than its rating: hot, derated, on a weak supply, or with a fault of its own. */

import { median } from '../quantity/numbers';
import type { SourceCharging, Stage } from '../charge/types';
import type { Source } from '../system/schema';
import { HOUR, lengthOf } from '../quantity/span';
import { amps, counted, percent } from '../quantity/text';
import { type Cause, type DayBalance, type Evidence, shrunk, weightOf } from './cause';
import { MAINS } from './remedy';

const WEIGHTS = {
  /** Most that it gave in bulk, in parts of its rating. */
  partOfRating: [
    [0.9, -13],
    [0.8, -6],
    [0.7, 4],
    [0.6, 11],
    [0, 15],
  ],
  /** Every charge stood at that limit. */
  again: 5,
  /** A lower limit after a higher one in the same log. */
  falls: [
    [0.85, 0],
    [0.75, 5],
    [0.65, 11],
    [0, 15],
  ],
} as const;

const LEAST_PART = 0.2;
/** Loads are never quite the same: that weakens what the battery's current says of the charger. */
const SEEN_FROM_AFAR = 0.9;
/**
 * Seen so, a bulk must last to show what the charger has, and for some samples: the climb to a full battery’s voltage takes a moment and
 * little current.
 */
const LEAST_SEEN = { ms: HOUR / 4, samples: 3 };
/** What falls to less than this part is a battery that fills, at a voltage that was not seen to be held. */
const LEAST_LEFT = 0.2;

export const sourceDerated: Cause = {
  code: 'source-derated',
  title: 'A charger gives less than its rating',
  complaint: 'undercharging',
  chemistries: 'all',
  families: ['charging'],
  needs: 'the charger’s own current in bulk, and its rating',
  signature: 'current capped below the rating although the voltage is not reached; falling as it warms',
  prior: { complained: -5, otherwise: -10 },
  weights: WEIGHTS,
  remedy: () => ({
    text: 'Find what holds it back: heat and dust in its fins, a limit in its settings, a weak supply or engine, shade or a dead string. Its rating is what the days were planned with.',
    caution: MAINS,
  }),
  tests: {
    'current-cool-and-hot': [
      { name: 'below its rating, or falling as it warms', ifHolds: 0.9, ifNot: 0.08 },
      { name: 'its rating, cool and hot', ifHolds: 0.1, ifNot: 0.92 },
    ],
  },
  weigh: ({ charging, days }) =>
    charging.flatMap((seen): Evidence[] => {
      const { source, limits, charges, knowsOwnAmps } = seen;
      // What the sun could have given is not known.
      if (!source || source.kind === 'solar' || source.kind === undefined) return [];
      if (!knowsOwnAmps) return seenByBattery(seen, source, days);
      const most = limits[0] ?? steadyInBulk(seen);
      // So little is a trickle beside other sources, no limit of its own.
      if (!most || most.amps < LEAST_PART * (source.ratedA ?? 0)) return [];
      const bulk = charges.flatMap((one) => one.stages).filter((one) => one.stage === 'bulk');
      const last = limits.at(-1) ?? fadedInBulk(seen) ?? most;
      const falls = weightOf(WEIGHTS.falls, last.amps / most.amps);
      const fades = falls > 0;
      const evidence: Evidence[] = [];
      if (source.ratedA !== undefined) {
        const part = most.amps / source.ratedA;
        evidence.push({
          text: `${source.name} gave ${amps(most.amps)} at most while the voltage was not reached: ${percent(100 * part)} of the ${amps(source.ratedA)} on its plate.`,
          // One that fades as it warms begins at its rating.
          decibans: fades && part >= 0.8 ? 0 : shrunk(weightOf(WEIGHTS.partOfRating, part), 2 * bulk.length),
          group: 'rating',
          spans: part < 0.8 ? bulk : [],
        });
        if (part < 0.7 && bulk.length >= 3)
          evidence.push({
            text: `It stood at that limit again and again, in ${counted(bulk.length, 'bulk')}.`,
            decibans: WEIGHTS.again,
            group: 'again',
            spans: [],
          });
      }
      if (fades)
        evidence.push({
          text: `Its limit moved: it gave ${amps(most.amps)}, and at other times no more than ${amps(last.amps)}, with the voltage still climbing. Heat or a weak supply does that.`,
          decibans: falls,
          group: 'falls',
          spans: [],
        });
      return evidence;
    }),
  missing: ({ charging, system }, evidence) =>
    charging.length > 0 && evidence.length === 0
      ? [
          system.sources.every((one) => one.kind === 'solar')
            ? 'what the panels could have given at the time'
            : 'a charge in which the charger gives all it has, and its rating',
        ]
      : [],
};

/** Hours of bulk in which a source that is far too weak shows what it has, where the flat voltage of lithium shows no limit. */
const LEAST_BULK = 6 * HOUR;

/** In so many bulks, however short, it gave as much: that is no moment's surge. */
const GIVEN_OFTEN = 3;

/** The most that a source gave in long bulks that never came to a held voltage; null where it came there, or hardly ran. */
function steadyInBulk({ charges, bulkAmps }: SourceCharging): { amps: number } | null {
  const stages = charges.flatMap((one) => one.stages);
  const bulkMs = stages
    .filter((one) => one.stage === 'bulk')
    .reduce((total, one) => total + lengthOf(one), 0);
  const held = stages.some((one) => one.stage === 'absorption' || one.stage === 'float');
  if (held || bulkMs < LEAST_BULK || !(bulkAmps > 0)) return null;
  const given = stages
    .filter((one) => one.stage === 'bulk' && one.usualSourceAmps > 0)
    .map((one) => one.usualSourceAmps);
  const often = given.sort((a, b) => b - a)[GIVEN_OFTEN - 1] ?? 0;
  return { amps: Math.max(bulkAmps, often) };
}

/**
 * So many long bulks show that a source fades; how near its end is to what it gave for most of it, when it has faded; and the part of its
 * most under which it only feeds loads.
 */
const FADES = { bulks: 3, near: 0.15, least: 0.25 };

/** What a source falls to in long bulks that never came to a held voltage; null where it gives the same all along. */
function fadedInBulk({ charges, bulkAmps }: SourceCharging): { amps: number } | null {
  const stages = charges.flatMap((one) => one.stages);
  if (stages.some((one) => one.stage === 'absorption' || one.stage === 'float')) return null;
  const long = stages.filter((one) => one.stage === 'bulk' && lengthOf(one) > 2 * HOUR);
  const faded = long.filter(
    (one) => Math.abs(one.endSourceAmps - one.usualSourceAmps) < FADES.near * one.usualSourceAmps,
  );
  const amps = median(faded.map((one) => one.usualSourceAmps));
  return faded.length >= FADES.bulks &&
    faded.length > 0.6 * long.length &&
    amps < 0.85 * bulkAmps &&
    amps > FADES.least * bulkAmps
    ? { amps }
    : null;
}

/** The battery's current alone shows what a charger gives but for the loads, and what those take shows while it is away. */
function seenByBattery(
  { charges, bulkAmps, cellMs }: SourceCharging,
  { name, ratedA }: Source,
  days: readonly DayBalance[],
): Evidence[] {
  const least = Math.max(LEAST_SEEN.ms, LEAST_SEEN.samples * cellMs);
  const bulk = charges
    .flatMap((one) => one.stages)
    .filter((one) => one.stage === 'bulk' && lengthOf(one) > least);
  const loads = charges.map((one) => -one.before.amps).filter((amps) => amps >= 0);
  if (ratedA === undefined || bulk.length < 3 || loads.length < 3 || !(bulkAmps > 0)) return [];
  // Where it is hardly ever away, what a day took from the battery is the least that the loads draw.
  const load = Math.max(
    median(loads),
    ...days.map((one) => one.ampHoursOut / 24).filter((one) => one === one),
  );
  const part = (bulkAmps + load) / ratedA;
  // One that fades as it warms begins at its rating, and ends a long bulk far below. What the loads took by then shows once it is away.
  const long = bulk.filter((one) => lengthOf(one) > HOUR);
  const loadAfter = new Map(charges.map((one) => [one.stages.at(-1), Math.max(load, -one.afterAmps || 0)]));
  const left = median(long.map((one) => one.endAmps + (loadAfter.get(one) ?? load))) / (bulkAmps + load);
  const again = (spans: Stage[]): Evidence => ({
    text: `So it was again and again, in ${counted(spans.length, 'bulk')}.`,
    decibans: shrunk(WEIGHTS.again, spans.length),
    group: 'again',
    spans: [],
  });
  if (part < LEAST_PART) return [];
  if (part >= 0.8 && long.length >= 3 && left > LEAST_LEFT && weightOf(WEIGHTS.falls, left) > 0)
    return [
      {
        text: `The battery took ${amps(bulkAmps)} at most, and at the end of a long bulk ${percent(100 * left)} of that, loads included, with the voltage still not reached: ${name} fades. Heat or a weak supply does that.`,
        decibans: Math.round(SEEN_FROM_AFAR * shrunk(weightOf(WEIGHTS.falls, left), long.length)),
        group: 'falls',
        spans: long,
      },
      again(long),
    ];
  const evidence: Evidence[] = [
    {
      text: `The battery took ${amps(bulkAmps)} at most while the voltage was not reached, and the loads take ${amps(load)} when ${name} is away: together ${percent(100 * part)} of the ${amps(ratedA)} on its plate.`,
      decibans: Math.round(SEEN_FROM_AFAR * shrunk(weightOf(WEIGHTS.partOfRating, part), bulk.length)),
      group: 'rating',
      spans: part < 0.8 ? bulk : [],
    },
  ];
  if (part < 0.6) evidence.push(again(bulk));
  return evidence;
}
