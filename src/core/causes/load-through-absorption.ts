/** Loads keep the charger from seeing the battery’s tail: absorption goes on though the battery is full. */

import type { Stage } from '../charge/types';
import { HOUR } from '../quantity/span';
import { median, sum } from '../quantity/numbers';
import { amps, duration, share } from '../quantity/text';
import { fullTailAmps, isLead } from '../system/chemistry';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { tailText } from './remedy';

const WEIGHTS = {
  /** Hours of a usual absorption with the battery at its tail and the charger far above. */
  hoursPast: [
    [3, 15],
    [2, 13],
    [1.5, 10],
    [1, 7],
    [0.4, -2],
    [0, -12],
  ],
  /** The same for lithium, which needs no more than an hour or two. */
  hoursPastLithium: [
    [6, 15],
    [3.5, 12],
    [2.75, 8],
    [2.25, 5],
    [1.5, -3],
    [0, -12],
  ],
  /** So it was in this part of the charges. */
  again: [
    [0.7, 6],
    [0.5, 3],
    [0, 0],
  ],
  /** Hours that an absorption of lead lasted that went on at the tail: two to five are usual. */
  lasted: [
    [9, 5],
    [7.5, 4],
    [6, 2],
    [4.5, 0],
  ],
  /** The told threshold lies between the battery's current and the charger's. */
  neverThere: 5,
} as const;

/** Past the tail for so long a charger did not merely end a little late. */
const LATE = 0.9 * HOUR;

/** Absorptions further apart than this are two, though the charger was never off between them. */
const APART = 3 * HOUR;

/** An absorption of lead that is over so soon is a usual one, whatever the loads take (common practice, no source). */
const USUAL = 4.5 * HOUR;

const isTold = (one: Stage): boolean => one.stage === 'absorption' && one.pastTailMs === one.pastTailMs;

function timesApart(stages: readonly Stage[]): Stage[][] {
  const times: Stage[][] = [];
  for (const one of stages) {
    const last = times.at(-1);
    if (last && one.from - last.at(-1)!.to <= APART) last.push(one);
    else times.push([one]);
  }
  return times;
}

export const loadThroughAbsorption: Cause = {
  code: 'load-through-absorption',
  title: 'Loads hide the tail from the charger',
  complaint: 'undercharging',
  chemistries: 'all',
  families: ['charging', 'battery-current'],
  needs: 'the charger’s current and the battery’s own over a few absorptions',
  signature: 'the charger’s current stays up, the battery’s is at its tail, and absorption lasts too long',
  prior: { complained: -6, otherwise: -11 },
  weights: WEIGHTS,
  remedy: ({ bank }) => ({
    text: `Let the charger see the battery’s own current, by a shared shunt, and end at ${tailText(bank)}; or end by a time that fits. A threshold of its own current never comes while loads run.`,
    caution: null,
  }),
  tests: {
    'log-both-currents': [
      { name: 'the battery is at its tail long before the charger ends', ifHolds: 0.9, ifNot: 0.08 },
      { name: 'both fall together', ifHolds: 0.1, ifNot: 0.92 },
    ],
  },
  weigh: ({ charging }) =>
    charging.flatMap(({ source, charges, bank, knowsOwnAmps }): Evidence[] => {
      if (!knowsOwnAmps) return [];
      const lead = isLead(bank.chemistry);
      const past = charges
        .flatMap(({ stages }) => timesApart(stages.filter(isTold)))
        .map((absorbed) => {
          const stage = absorbed.at(-1)!;
          const total = sum(absorbed.map((one) => Math.max(one.pastTailMs, one.pastSettingMs || 0)));
          // A charger that came down to the tail itself in the end saw it.
          const tailA = Math.min(fullTailAmps(bank), source?.profile.tailA ?? Infinity);
          const heldMs = sum(absorbed.map((one) => one.heldMs));
          const isUsual = lead && heldMs <= USUAL;
          return { ms: stage.endSourceAmps > tailA && !isUsual ? total : 0, heldMs, stage, absorbed };
        });
      if (past.length === 0) return [];
      const heldMs = median(past.map((one) => one.heldMs));
      const long = past.filter((one) => one.ms > LATE);
      // Where it happens every other time, what matters is how long it then goes on.
      const usual = median((long.length >= 0.5 * past.length ? long : past).map((one) => one.ms));
      const evidence: Evidence[] = [
        {
          text:
            usual > 0.4 * HOUR
              ? `${source?.name ?? 'The charger'} went on absorbing for ${duration(usual)} with the battery already at its tail: it still gave ${amps(median(past.map((one) => one.stage.endSourceAmps)))}, of which the battery took ${amps(median(past.map((one) => one.stage.endAmps)))}; the loads took the rest. ${long.length > 0 ? `So it was in ${share(long.length, past.length, 'charge')}.` : 'That is little.'}`
              : lead && heldMs <= USUAL
                ? `Absorption was over after ${duration(heldMs)}, which is usual, whatever the loads took.`
                : 'Absorption did not go on for long with the battery at its tail.',
          decibans: shrunk(
            weightOf(lead ? WEIGHTS.hoursPast : WEIGHTS.hoursPastLithium, usual / HOUR),
            // One absorption of ten hours tells as much as several of two.
            Math.max(past.length, past.reduce((total, one) => total + one.ms, 0) / (2 * HOUR)),
          ),
          group: 'past',
          spans: long.map((one) => one.stage),
        },
      ];
      const again = weightOf(WEIGHTS.again, long.length / past.length);
      if (long.length >= 2 && again > 0)
        evidence.push({
          text: `It does so ${again === WEIGHTS.again[0][1] ? 'on nearly every charge' : 'on every second charge or more'}.`,
          decibans: shrunk(again, long.length),
          group: 'again',
          spans: [],
        });
      const lasted = weightOf(WEIGHTS.lasted, heldMs / HOUR);
      if (lead && usual > LATE && lasted > 0)
        evidence.push({
          text: `Absorption lasted ${duration(heldMs)}; two to five hours are usual.`,
          decibans: shrunk(lasted, long.length),
          group: 'lasted',
          spans: [],
        });
      const tailA = source?.profile.tailA;
      const own = median(past.map((one) => one.stage.endSourceAmps));
      // What counts by the threshold that is set has said so already.
      const pastTail = median(past.map(({ absorbed }) => sum(absorbed.map((one) => one.pastTailMs))));
      if (
        tailA !== undefined &&
        pastTail > HOUR &&
        own > tailA &&
        median(past.map((one) => one.stage.endAmps)) < tailA
      )
        evidence.push({
          text: `${source!.name} is set to end absorption at ${amps(tailA)}, and the loads kept its current at ${amps(own)}.`,
          decibans: WEIGHTS.neverThere,
          group: 'told',
          spans: [],
        });
      return evidence;
    }),
  missing: ({ charging }, evidence) =>
    charging.length > 0 && evidence.length === 0 ? ['the battery’s own current through an absorption'] : [],
};
