/** Equalisation that is due, was never finished, or was tried without reaching or holding its voltage. */

import type { Stage } from '../charge/types';
import { isNumber } from '../quantity/numbers';
import { DAY, MINUTE } from '../quantity/span';
import { counted, dayText, duration, volts } from '../quantity/text';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { GAS } from './remedy';

const WEIGHTS = {
  /** Days since the last one, in parts of the interval that the maker asks for. */
  intervals: [
    [2, 15],
    [1.5, 13],
    [1.15, 7],
    [0.8, -2],
    [0, -13],
  ],
  /** Attempts in the log that never held the voltage for the time. */
  failed: 9,
  /** One that held it for its time. */
  done: -15,
  /** Points of gravity between the cells in the last round after a full charge. */
  spread: [
    [50, 10],
    [30, 7],
    [20, 0],
    [0, -6],
  ],
} as const;

/** Minutes held, in parts of what is asked for, from which it counts as done. */
const ENOUGH = 0.8;
/** A source that gives this part of its rating all the while does not regulate: its voltage is short, and by more than a meter is off. */
const AT_LIMIT = { part: 0.93, shortPart: 0.004 };

/** Under the voltage by more than this part of it, no meter makes it the one that was asked for; nor, where no temperature is known, the weather. */
const FAR_SHORT = { known: 0.02, unknown: 0.04 };

const voltsOf = ({ volts, volts25 }: Stage): number => (isNumber(volts25) ? volts25 : volts);

const isFarShort = (stage: Stage, asked: number): boolean =>
  voltsOf(stage) < (1 - (isNumber(stage.volts25) ? FAR_SHORT.known : FAR_SHORT.unknown)) * asked;

/** It stood below the voltage all the while, with its source at the most that it gives. */
const stoodAtLimit = (stage: Stage, asked: number, ratedA?: number): boolean =>
  voltsOf(stage) < (1 - AT_LIMIT.shortPart) * asked &&
  ratedA !== undefined &&
  stage.usualSourceAmps >= AT_LIMIT.part * ratedA;

export const equalisationOverdue: Cause = {
  code: 'equalisation-overdue',
  title: 'Equalisation is overdue',
  complaint: 'undercharging',
  chemistries: ['flooded'],
  families: [],
  needs: 'what the maker asks for, the date of the last one, and the charger’s log over an attempt',
  signature: 'no climb to the equalisation voltage within the interval, or climbs that never hold it',
  prior: { complained: -4, otherwise: -5 },
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  remedy: ({ bank }) => ({
    text: `Take a hydrometer round, check electrolyte and joints, then equalise by hand${bank.equalise ? ` at ${bank.equalise.volts.toFixed(2)} V for ${bank.equalise.minutes} min, counted from when the voltage is reached` : ' as the maker’s sheet says'}; see that the source is large enough to get there.`,
    caution: GAS,
  }),
  tests: {
    'hydrometer-round': [
      { name: 'cells differ by more than 0.030', ifHolds: 0.8, ifNot: 0.15 },
      { name: 'cells are even', ifHolds: 0.2, ifNot: 0.85 },
    ],
  },
  described({ system, job, charging, rounds }) {
    const asked =
      system.bank.equalise ?? system.sources.find((one) => one.profile.equalise)?.profile.equalise;
    if (!asked) return [];
    const evidence: Evidence[] = [];
    const round = rounds.findLast((one) => one.round.afterFullCharge === true);
    if (round)
      evidence.push({
        text: `In the hydrometer round of ${dayText(round.round.on)}, after a full charge, the cells stood ${Math.round(1000 * round.spread)} points of gravity apart.`,
        decibans: weightOf(WEIGHTS.spread, Math.round(1000 * round.spread)),
        group: 'round',
        spans: [],
      });
    const attempts = charging.flatMap(({ source, charges }) =>
      charges
        .flatMap((one) => one.stages)
        .filter((one) => one.stage === 'equalise')
        .map((one) => {
          const atLimit = stoodAtLimit(one, asked.volts, source?.ratedA);
          return { ...one, atLimit, isShort: atLimit || isFarShort(one, asked.volts) };
        }),
    );
    const isLong = ({ holdingMs }: Stage) => holdingMs >= ENOUGH * asked.minutes * MINUTE;
    const short = attempts.filter((one) => one.isShort);
    const done = attempts.filter((one) => !one.isShort && isLong(one));
    const failed = attempts.filter((one) => !one.isShort && !isLong(one));
    if (done.length > 0)
      evidence.push({
        text: `In the log ${volts(asked.volts)} was held for ${duration(Math.max(...done.map((one) => one.holdingMs)))}: that was an equalisation.`,
        decibans: WEIGHTS.done,
        group: 'done',
        spans: done,
      });
    else if (failed.length > 0)
      evidence.push({
        text: `${counted(failed.length, 'attempt')} to equalise held the voltage for ${duration(Math.max(...failed.map((one) => one.holdingMs)))} at most, where ${asked.minutes} min are asked for: an attempt that does not hold it is none.`,
        decibans: shrunk(WEIGHTS.failed, 2 * failed.length),
        group: 'attempts',
        spans: failed,
      });
    else if (short.length > 0)
      evidence.push({
        text: `${counted(short.length, 'attempt')} to equalise came to ${volts(Math.max(...short.map(voltsOf)))}${short.some(({ volts25 }) => isNumber(volts25)) ? ' at 25 °C' : ''}${short.some((one) => one.atLimit) ? ' with the source at the most that it gives' : ''}, where ${volts(asked.volts)} are asked for: the voltage was not reached.`,
        decibans: shrunk(WEIGHTS.failed, 2 * short.length),
        group: 'attempts',
        spans: short,
      });
    const last = 'lastOn' in asked && typeof asked.lastOn === 'string' ? Date.parse(asked.lastOn) : NaN;
    const days = (Date.parse(job.openedAt) - last) / DAY;
    if (days === days && done.length === 0)
      evidence.push({
        text: `The last equalisation was ${counted(Math.round(days), 'day')} ago; the maker asks for it every ${counted(asked.everyDays, 'day')}.`,
        decibans: weightOf(WEIGHTS.intervals, days / asked.everyDays),
        group: 'due',
        spans: [],
      });
    return evidence;
  },
  missing: ({ system }) => (system.bank.equalise?.lastOn ? [] : ['the date of the last equalisation']),
};
