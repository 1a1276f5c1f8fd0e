/** What ended a stage: seen over all charges of a source, because a timer and a tail only differ in what repeats. */

import { MINUTE } from '../quantity/span';
import { median, quantile, relativeSpread } from '../quantity/numbers';
import { REPORTED_STAGES } from '../log/channels';
import { cellAt } from '../log/grid';
import type { KnownSystem } from '../system/known';
import type { Source } from '../system/schema';
import { CHEMISTRY } from '../system/chemistry';
import type { Charge, EndedBy, Stage } from './types';
import type { Setpoints } from './setpoint';
import { at25, type ChargeView } from './view';

/** Writes `endedBy` of every stage of a source's charges. */
export function whatEnded(
  charges: Charge[],
  view: ChargeView,
  source: Source | null,
  system: KnownSystem,
  setpoints: Pick<Setpoints, 'absorption' | 'voltsPerC'>,
): void {
  const decided: Absorbed[] = [];
  for (const charge of charges) {
    let heldMs = 0;
    let from = NaN;
    charge.stages.forEach((stage, i) => {
      const next = charge.stages[i + 1];
      stage.endedBy = firstGuess(stage, next);
      if (stage.stage === 'float') heldMs = 0;
      if (stage.stage !== 'absorption') return;
      if (heldMs === 0) from = stage.from;
      heldMs += stage.heldMs;
      if (
        (next?.stage === 'float' || leavesToOthers(stage, next, view)) &&
        !stage.blocked &&
        !charge.stages.some((one) => one.stage === 'absorption' && one.cutOff)
      )
        decided.push({
          stage,
          heldMs,
          elapsedMs: stage.to - from,
          ...touched(charge, stage, view, setpoints),
        });
    });
  }
  const rule = timerOrTail(decided, view, source, system);
  for (const one of decided) {
    one.stage.endedBy = rule.endedBy(one);
    if (one.stage.endedBy === 'timer') one.stage.clockMs = rule.lengthOf(one);
  }
}

/** An absorption that the charger ended itself; clouds may have broken it into several, whose times add up. */
interface Absorbed {
  /** The last of them. */
  stage: Stage;
  heldMs: number;
  elapsedMs: number;
  /** Since the voltage was first touched, be it for a minute between clouds, and all the time at it since then. */
  sinceTouchMs: number;
  touchingMs: number;
  /** Of that, what the charger itself called absorption; all of it where the charger says nothing. */
  calledMs: number;
}

const ABSORPTION = REPORTED_STAGES.indexOf('absorption');

/** How long the voltage had been touched when a stage ended: a clock may start at the first touch, which no stage shows. */
function touched(
  charge: Charge,
  stage: Stage,
  view: ChargeView,
  { absorption, voltsPerC }: Pick<Setpoints, 'absorption' | 'voltsPerC'>,
): Pick<Absorbed, 'sinceTouchMs' | 'touchingMs' | 'calledMs'> {
  const { grid, reported } = view;
  const least = absorption ? absorption.volts - 2 * absorption.width : Infinity;
  const to = cellAt(grid, stage.to);
  let first = to;
  let cells = 0;
  let called = 0;
  for (let cell = cellAt(grid, charge.from); cell < to; cell++)
    if (at25(view, cell, voltsPerC) >= least) {
      first = Math.min(first, cell);
      cells++;
      if (reported?.[cell] === ABSORPTION) called++;
    }
  return {
    sinceTouchMs: (to - first) * grid.step,
    touchingMs: cells * grid.step,
    calledMs: (called || cells) * grid.step,
  };
}

/** A charger that others push off is off within minutes. */
const PUSHED_OFF = 8 * MINUTE;

/** It still gave something and stopped at once, and others held the voltage: be it by its clock, its threshold, or pushed off by them. */
const leavesToOthers = (stage: Stage, next: Stage | undefined, { ampNoise }: ChargeView): boolean =>
  next?.stage === 'hold' && stage.leastEndAmps > 3 * ampNoise && stage.heldMs >= PUSHED_OFF;

/** The ways in which a clock may count. */
const CLOCKS = ['elapsedMs', 'heldMs', 'sinceTouchMs', 'touchingMs', 'calledMs'] as const;

function firstGuess(stage: Stage, next: Stage | undefined): EndedBy {
  if (stage.cutOff) return 'unknown';
  if (stage.stage === 'bulk')
    return next?.stage === 'absorption' || next?.stage === 'float' ? 'unknown' : 'source-lost';
  if (stage.stage === 'absorption' || stage.stage === 'float') {
    if (next?.stage === 'float') return 'unknown';
    // The charger still gave something, yet the battery was drawn upon: a load took more than the source has.
    if (stage.endAmpsAreBattery && stage.endAmps < 0 && stage.endSourceAmps > 0) return 'load';
    return 'source-lost';
  }
  return 'unknown';
}

/** Relative spread under which a duration, and an end current, count as the same again. */
const SAME_DURATION = 0.05;
const SAME_CURRENT = 0.15;
/** Spread of nine in ten of the durations, relative, above which no clock made them. */
const NO_CLOCK = 0.3;
/** Part of the absorptions that must agree with a clock that is set. */
const AGREES = 0.8;
/** Nobody sets a shorter absorption time. */
const SHORTEST_CLOCK = 10 * MINUTE;
/** Of the first and the last cell only a part may have been held: a clock may be two cells longer than what was seen, ms. */
export const isTooShortForClock = (ms: number, cellMs: number): boolean =>
  ms + 2 * cellMs - 2 * MINUTE < SHORTEST_CLOCK;
/** A cell of the log in parts of the duration, above which nothing is the same again. */
const COARSEST = 0.25;
/** And under which they are as sharp as a clock, or a threshold, makes them. */
const SHARP_DURATION = 0.015;
const SHARP_CURRENT = 0.04;

/**
 * The rule by which a charger ends absorption, from the absorptions that it ended itself. Durations that repeat with differing
 * end currents are a timer, end currents that repeat with differing durations a tail. Where every day was like the other both
 * repeat; then the setting decides, and without one only a current far above any tail points to the clock.
 */
function timerOrTail(
  absorbed: Absorbed[],
  view: ChargeView,
  source: Source | null,
  system: KnownSystem,
): { endedBy: (one: Absorbed) => EndedBy; lengthOf: (one: Absorbed) => number } {
  const profile = source?.profile;
  const { capacityAh, chemistry } = system.bank;
  const stages = absorbed.map((one) => one.stage);
  // What repeats is judged on undisturbed days, where there are enough: clouds and loads blur the ends of a plateau.
  const calm = absorbed.filter(
    (one) => one.stage.dips === 0 && one.elapsedMs - one.heldMs <= 2 * view.grid.step,
  );
  const clear = calm.length >= 3 ? calm : absorbed;
  const spreads = CLOCKS.map((clock) => {
    const spread = relativeSpread(clear.map((one) => one[clock]));
    return Number.isNaN(spread) ? Infinity : spread;
  });
  const duration = Math.min(...spreads);
  const clock = CLOCKS[spreads.indexOf(duration)] ?? 'heldMs';
  const lengthOf = (one: Absorbed) => one[clock];
  const usual = median(clear.map(lengthOf));
  const usualOwn = median(stages.map((stage) => stage.leastEndAmps));
  const usualBattery = median(stages.map((stage) => stage.endAmps));
  // A boundary is known to a cell of the grid, a current to the meter's noise: no sameness is finer than that.
  const resolution = Math.max(view.grid.step, MINUTE) / usual;
  const currents = [
    {
      spread: relativeSpread(clear.map((one) => one.stage.leastEndAmps)),
      resolution: view.ampNoise / Math.max(usualOwn, 1e-6),
    },
    {
      spread: relativeSpread(clear.map((one) => one.stage.endAmps)),
      resolution: view.batteryNoise / Math.max(usualBattery, 1e-6),
    },
  ];

  const by = (endedBy: (one: Absorbed) => EndedBy) => ({ endedBy, lengthOf });
  const bySetting = (one: Absorbed): EndedBy => {
    const { absorptionMinutes: minutes, tailA } = profile ?? {};
    const timer =
      minutes !== undefined &&
      Math.abs(lengthOf(one) / MINUTE - minutes) <= 0.05 * minutes + (2 * view.grid.step) / MINUTE;
    const tail =
      tailA !== undefined && Math.abs(one.stage.endSourceAmps - tailA) <= 0.2 * tailA + 2 * view.ampNoise;
    return timer === tail ? 'unknown' : timer ? 'timer' : 'tail';
  };
  if (absorbed.length < 3) return by(bySetting);
  // A clock is never overrun: disturbed plateaus are found short, and the others all end at the same longest time.
  const together =
    clusteredAtTop(absorbed, (one) => one.elapsedMs, view.grid.step) ??
    clusteredAtTop(absorbed, (one) => one.sinceTouchMs, view.grid.step);

  const timer = (one: Absorbed): EndedBy =>
    Math.abs(lengthOf(one) / usual - 1) < 0.1 + 2 * resolution ? 'timer' : bySetting(one);
  const timerAt =
    (clock: number) =>
    (one: Absorbed): EndedBy =>
      [one.elapsedMs, one.sinceTouchMs].some((ms) => ms > 0.6 * clock && ms < 1.1 * clock)
        ? 'timer'
        : bySetting(one);
  const tail = (one: Absorbed): EndedBy =>
    Math.abs(one.stage.leastEndAmps / usualOwn - 1) < 0.35 ||
    Math.abs(one.stage.endAmps / usualBattery - 1) < 0.35
      ? 'tail'
      : bySetting(one);
  // Both ends of a stage are uncertain by a cell.
  // A log whose cells are as long as the stage shows no sameness at all.
  const tellsTime = resolution < COARSEST;
  const sharpTimer = tellsTime && duration <= Math.max(SHARP_DURATION, 1.2 * resolution);
  const sharpTail = currents.some((one) => one.spread <= Math.max(SHARP_CURRENT, 1.5 * one.resolution));
  const looseTimer = tellsTime && duration <= SAME_DURATION + 2 * resolution;
  const looseTail = currents.some(
    (one) => one.spread <= (tellsTime ? SAME_CURRENT : SHARP_CURRENT) + one.resolution,
  );
  // A clock that is set, and that every length agrees with as far as the log tells: days that are alike end at like currents too.
  const agrees = absorbed.filter((one) => bySetting(one) === 'timer').length;
  if (profile?.tailA === undefined && agrees >= AGREES * absorbed.length) return by(bySetting);
  // What repeats sooner than any clock is set has ended by its current.
  const repeats = together && tellsTime ? together : looseTimer ? usual : Infinity;
  if (isTooShortForClock(repeats, view.grid.step)) return by(tail);
  if (together && tellsTime && !sharpTail) return { endedBy: timerAt(together), lengthOf: () => together };
  if (looseTimer !== looseTail) return by(looseTimer ? timer : tail);
  // Undisturbed plateaus of plainly differing length are no clock's doing, even where loads blur the current at their ends.
  const lengths = clear.map(lengthOf);
  const spread = (quantile(lengths, 0.9) - quantile(lengths, 0.1)) / usual;
  if (calm.length >= 4 && spread > NO_CLOCK + 4 * resolution) return by(tail);
  if (sharpTimer !== sharpTail) return by(sharpTimer ? timer : tail);
  // Both repeat as sharply: days that are all alike. No clock is set so short.
  if (sharpTail && calm.length >= 4 && quantile(lengths, 0.75) < SHORTEST_CLOCK + 3 * MINUTE) return by(tail);
  const early = 100 * usualBattery > 1.5 * CHEMISTRY[chemistry].earlyTailPercent * capacityAh;
  return by((one) => {
    const told = bySetting(one);
    return told === 'unknown' && looseTimer && early ? timer(one) : told;
  });
}

/** So many, and this part of all, must end together within two cells or 2 % to count as a clock's doing. */
const TOGETHER = { least: 4, part: 0.5 };

/** The time at which the longest end together; null where they trail off, as those that a current ends do. */
function clusteredAtTop(
  absorbed: readonly Absorbed[],
  lengthOf: (one: Absorbed) => number,
  step: number,
): number | null {
  const lengths = absorbed.map(lengthOf).sort((a, b) => b - a);
  // One that was found too long, for two plateaus that ran into one, does not hide the rest.
  for (const top of lengths.slice(0, 2)) {
    const width = Math.max(2 * step, 0.02 * top);
    const members = lengths.filter((one) => one <= top && one >= top - width);
    if (members.length >= TOGETHER.least && members.length >= TOGETHER.part * lengths.length)
      return median(members);
  }
  return null;
}
