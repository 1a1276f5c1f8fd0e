/** Absorption that ends with the battery still taking current: what the clock and the threshold have in common, and what parts them. */

import { HOUR, MINUTE } from '../quantity/span';
import { isNumber, median, quantile } from '../quantity/numbers';
import { ampHours, amps, celsius, duration, percent, share, volts } from '../quantity/text';
import { CHEMISTRY, fullTailAmps, isLead } from '../system/chemistry';
import { isTooShortForClock } from '../charge/ended';
import { settingsOf } from '../charge/setAlike';
import type { SourceCharging, Stage } from '../charge/types';
import { type Evidence, shrunk, weightOf } from './cause';
import { brokeOff, type Ended, endedByCharger, leftAtOnce } from './endOfAbsorption';

export const EARLY_END_WEIGHTS = {
  /** Current at the end of absorption, in units of the current at which the chemistry counts as full. */
  endCurrentInTails: [
    [3, 14],
    [2, 11],
    [1.5, 7],
    [1.15, -3],
    [0, -13],
  ],
  /** It ends in the way of this cause again and again; in the way of the other. */
  repeats: 7,
  othersRepeat: -10,
  /** The current that ends it again and again is one that no battery asks for, loads or not. */
  highThreshold: 5,
  /** The told figure is the one seen; the other's told figure is. */
  asConfigured: 7,
  othersAsConfigured: -8,
  /** The told time is far longer. */
  configuredLonger: -8,
  /** It left so soon that no clock is set so short. */
  tooSoonForClock: 8,
  /** Nothing parts the two: a clock is the usual one, a threshold the rare one. */
  usual: 3,
  rare: -4,
  /** Other sources gave much of what the battery took when it ended. */
  othersGave: -14,
  /** Its own current had come down to what a threshold may be, and others gave the rest: its threshold is right. */
  rightThreshold: -10,
  /** Minutes that the current would still have needed. */
  minutesMissing: [
    [60, 4],
    [20, 2],
    [0, 0],
  ],
  /** Share of charges in which the battery got truly full all the same. */
  fullAnyway: [
    [0.5, -6],
    [0.2, -3],
    [0.05, 0],
    [0, 3],
  ],
  /** So many hours at its voltage, and few tails left: no clock is set longer, and something else keeps the current up. */
  longHeld: [
    [4.5, -6],
    [3.8, -4],
    [0, 0],
  ],
  /** So many hours at its voltage, in the cold: there a lead battery takes its charge slowly. */
  slowInCold: [
    [3.5, -14],
    [2.8, -11],
    [2, -8],
    [0, 0],
  ],
  /** Charging broke off during absorption, share of charges. */
  lostBeforeEnd: [
    [0.7, -6],
    [0, 0],
  ],
} as const;
const WEIGHTS = EARLY_END_WEIGHTS;

/** A battery colder than this takes its charge slowly, °C; so long an absorption is long enough for a warm one (common practice, no source). */
const COLD = { celsius: 5, held: 2 * HOUR };

/**
 * What ended it matters little so near the tail: from this part of its weight at so few tails to the whole of it at so many for a clock.
 * An absorption of hours that comes so near is no short one, and a threshold is judged by the current itself.
 */
const NEAR_TAIL = { from: 1.5, to: 2, part: 0.4, short: 2 * HOUR };
/** So few tails may be left for another reason than want of time. */
const FEW_TAILS = 3;
/** It ends so in this part of the charges; and a threshold of so many tails is high. */
const MOSTLY = 0.6;
const HIGH = 3;
/** Less than this part of the capacity is little, however long it takes. */
const LITTLE = 0.04;

function partNearTail(tails: number, heldMs: number): number {
  if (tails >= NEAR_TAIL.to) return 1;
  if (heldMs >= NEAR_TAIL.short) return NEAR_TAIL.part;
  return NEAR_TAIL.part + ((1 - NEAR_TAIL.part) * (tails - NEAR_TAIL.from)) / (NEAR_TAIL.to - NEAR_TAIL.from);
}

/** @param by what the cause says ends it */
export function weighEarlyEnd(charging: SourceCharging, by: 'timer' | 'tail'): Evidence[] {
  const { source, charges, bank, missing, leftEarly, cellMs } = charging;
  const { fullTailPercent, earlyTailPercent } = CHEMISTRY[bank.chemistry];
  const absorbing = charges.filter((charge) => charge.stages.some((stage) => stage.stage === 'absorption'));
  const ended = absorbing.length > 0 ? absorbing.flatMap(endedByCharger) : charges.flatMap(leftAtOnce);
  const name = source?.name ?? 'The charger';
  const evidence: Evidence[] = [];

  const lost = absorbing.filter(brokeOff);
  if (absorbing.length >= 3 && lost.length > 0) {
    const decibans = weightOf(WEIGHTS.lostBeforeEnd, lost.length / absorbing.length);
    if (decibans !== 0)
      evidence.push({
        text: `${name}: charging broke off at the absorption voltage, with no float after it, in ${share(lost.length, absorbing.length, 'charge')}: nothing is seen to end it there.`,
        decibans: shrunk(decibans, lost.length),
        group: 'end',
        spans: lost,
      });
  }
  if (ended.length === 0) return evidence;

  const endPercent = (100 * median(ended.map((one) => one.endAmps))) / bank.capacityAh;
  const tails = endPercent / fullTailPercent;
  const above = ended.filter((one) => (100 * one.endAmps) / bank.capacityAh > 1.5 * fullTailPercent);
  const spans = ended.map((one) => one.stage);
  const held = median(ended.map((one) => one.heldMs));
  const known = ended.filter((one) => one.stage.endAmpsAreBattery).length >= ended.length / 2;
  evidence.push({
    text: `${held > 0 ? `Absorption held ${volts(median(spans.map((one) => one.volts)))} for ${heldText(held, cellMs)}` : `It went from bulk to float at ${volts(median(spans.map((one) => one.volts)))}, with no absorption that shows,`} and ended at ${percent(endPercent)} of capacity (${amps((endPercent * bank.capacityAh) / 100)})${known ? '' : ', loads taken off as they show on float'}; it was above ${percent(1.5 * fullTailPercent)} in ${share(above.length, ended.length, 'charge')}. A full battery takes ${percent(fullTailPercent)} or less.`,
    decibans: shrunk(weightOf(WEIGHTS.endCurrentInTails, tails) * (known ? 1 : 0.7), ended.length),
    group: 'current',
    spans,
  });

  const early = tails > 1.5;
  const ownPercent = (100 * median(ended.map((one) => one.stage.leastEndAmps))) / bank.capacityAh;
  const byTail = ended.filter((one) => one.stage.endedBy === 'tail');
  const isHigh = byTail.length >= MOSTLY * ended.length && ownPercent >= HIGH * fullTailPercent;
  if (early)
    evidence.push(
      ...whatEndsIt(ended, charging, by).map((one) =>
        one.decibans > 0 && !(by === 'tail' && isHigh)
          ? {
              ...one,
              decibans: Math.round(partNearTail(tails, by === 'timer' ? held : Infinity) * one.decibans),
            }
          : one,
      ),
    );
  if (early && isHigh && by === 'tail')
    evidence.push({
      text: `A threshold of ${percent(ownPercent)} of capacity is too high, whatever the loads draw.`,
      decibans: shrunk(WEIGHTS.highThreshold, byTail.length),
      group: 'clock',
      spans: [],
    });
  const leftToOthers = leftEarly ? leftEarly.stages.length / leftEarly.ended : 0;
  if (early && leftEarly && leftToOthers >= 0.25)
    evidence.push({
      text: `Others gave ${amps(leftEarly.othersAmps)} as it ended, and its own current was down to ${amps(leftEarly.ownAmps)}: by that it had reason to stop.`,
      decibans: shrunk(WEIGHTS.othersGave * Math.min(1, 2 * leftToOthers), leftEarly.ended),
      group: 'others',
      spans: [],
    });

  if (
    by === 'tail' &&
    early &&
    known &&
    leftToOthers > 0 &&
    ownPercent <= RIGHT_THRESHOLD * earlyTailPercent &&
    ownPercent < OWN_PART * endPercent
  )
    evidence.push({
      text: `Its own current was down to ${percent(ownPercent)} of capacity, which is no threshold too high; that the battery still took ${percent(endPercent)} is the others’ doing.`,
      decibans: shrunk(WEIGHTS.rightThreshold, ended.length),
      group: 'others',
      spans: [],
    });

  if (early && missing) {
    const tailAmps = fullTailAmps(bank);
    const weight = weightOf(WEIGHTS.minutesMissing, missing.minutes);
    const decibans = missing.ampHours < LITTLE * bank.capacityAh ? 0 : weight;
    if (weight > 0)
      evidence.push({
        text: `Going by how the current fell, it would have needed at least ${duration(missing.minutes * MINUTE)} more to come down to ${amps(tailAmps)}: ${ampHours(missing.ampHours)} are missing each time.`,
        decibans: shrunk(decibans, missing.charges),
        group: 'current',
        spans: [],
      });
  }
  const heat = median(spans.map((one) => one.celsius).filter(isNumber));
  const isCold = heat < COLD.celsius && held >= COLD.held && isLead(bank.chemistry);
  const long = weightOf(WEIGHTS.longHeld, held / HOUR);
  if (by === 'timer' && early && !isCold && tails < FEW_TAILS && long !== 0)
    evidence.push({
      text: `${duration(held)} is a long absorption: the battery itself, a load or a meter may be what keeps the current up.`,
      decibans: shrunk(long, ended.length),
      group: 'long',
      spans: [],
    });
  if (by === 'timer' && early && isCold)
    evidence.push({
      text: `At ${celsius(heat)} a battery takes its charge slowly: ${duration(held)} would be enough for a warm one.`,
      decibans: shrunk(weightOf(WEIGHTS.slowInCold, held / HOUR), ended.length),
      group: 'cold',
      spans: [],
    });
  const full = charges.filter((charge) => charge.full);
  if (absorbing.length >= 3)
    evidence.push({
      text: `The battery got truly full in ${share(full.length, absorbing.length, 'charge')} that reached absorption.`,
      decibans:
        early || full.length > 0
          ? shrunk(weightOf(WEIGHTS.fullAnyway, full.length / absorbing.length), absorbing.length)
          : 0,
      group: 'full',
      spans: full,
    });
  return evidence;
}

/** A charger that stops at no more than this many early tails has no threshold too high; and its own part of what the battery takes. */
const RIGHT_THRESHOLD = 1.1;
const OWN_PART = 0.92;

/** What fits between two samples of the log is not known any better. */
const heldText = (ms: number, cellMs: number): string =>
  ms >= cellMs ? duration(ms) : `${duration(cellMs)} at most`;

/** What repeats, and what was told: which of the two it is. */
function whatEndsIt(ended: Ended[], charging: SourceCharging, by: 'timer' | 'tail'): Evidence[] {
  const { source, cellMs } = charging;
  const of = (what: 'timer' | 'tail') => ended.filter((one) => one.stage.endedBy === what);
  const held = median(ended.map((one) => one.heldMs));
  const ownAmps = median(ended.map((one) => one.stage.endSourceAmps));
  const minutes = settingsOf(charging).absorptionMinutes;
  const tailA = source?.profile.tailA;
  const name = source?.name ?? 'Each charger';
  const clock = median(of('timer').map((one) => one.stage.clockMs)) || held;
  // Clouds cut some short; a clock is seen in those that they left alone.
  const longest = quantile(
    ended.map((one) => one.heldMs),
    0.75,
  );
  const asClock =
    minutes !== undefined &&
    [held, clock, longest].some((ms) => Math.abs(ms / MINUTE - minutes) < 0.08 * minutes + 3);
  const asThreshold = tailA !== undefined && Math.abs(ownAmps - tailA) < 0.2 * tailA;
  // Of its first and its last cell only a part may have been seen.
  const configuredLonger =
    !asClock && minutes !== undefined && (longest + 2 * cellMs) / MINUTE < 0.5 * minutes + 2;
  const evidence: Evidence[] = [];
  const add = (text: string, decibans: number, spans: Stage[] = []) =>
    evidence.push({ text, decibans, group: 'clock', spans });
  const timers = of('timer');
  const tails = of('tail');
  const most = MOSTLY * ended.length;
  if (isTooShortForClock(longest, cellMs)) {
    add(
      `It left absorption ${held > 0 ? `after ${duration(held)}` : 'at once'}: no clock is set so short, a threshold of current ended it.`,
      (by === 'tail' ? 1 : -1) * shrunk(WEIGHTS.tooSoonForClock, ended.length),
      ended.map((one) => one.stage),
    );
    return evidence;
  }
  const sign = (what: 'timer' | 'tail') => (what === by ? WEIGHTS.repeats : WEIGHTS.othersRepeat);
  if (timers.length >= most && ended.length >= 3)
    add(
      `It lasted ${duration(clock)} again and again (${share(timers.length, ended.length, 'charge')}), whatever the battery still took: a clock ended it.`,
      shrunk(sign('timer'), ended.length),
      timers.map((one) => one.stage),
    );
  else if (tails.length >= most && ended.length >= 3)
    add(
      `It ended at about the same current of the charger, ${amps(median(tails.map((one) => one.stage.endSourceAmps)))}, in ${share(tails.length, ended.length, 'charge')}: the current ended it, not a clock.`,
      shrunk(sign('tail'), tails.length),
      tails.map((one) => one.stage),
    );
  else if (asClock === asThreshold && !configuredLonger)
    add(
      by === 'timer'
        ? 'Nothing in the log parts a clock from a threshold; a clock is the usual one.'
        : 'Nothing in the log parts a threshold from a clock, and a clock is the usual one.',
      by === 'timer' ? WEIGHTS.usual : WEIGHTS.rare,
    );
  if (configuredLonger && timers.length < most)
    add(
      `${name} is set to ${minutes} min of absorption and ended it after ${heldText(held, cellMs)}: that clock did not.`,
      by === 'timer' ? WEIGHTS.configuredLonger : -WEIGHTS.configuredLonger,
    );
  if (asClock && !asThreshold)
    add(
      `${name} is set to ${minutes} min of absorption, which is what the log shows.`,
      by === 'timer' ? WEIGHTS.asConfigured : WEIGHTS.othersAsConfigured,
    );
  if (asThreshold && !asClock)
    add(
      `${name} is set to end absorption at ${amps(tailA)}, which is what the log shows.`,
      by === 'tail' ? WEIGHTS.asConfigured : WEIGHTS.othersAsConfigured,
    );
  return evidence;
}
