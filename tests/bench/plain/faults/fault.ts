/** What a fault of a plain site is, and what several of them do. */

import type { CauseCode } from '@/core/causes/codes';
import { mean, quantile } from '@/core/quantity/numbers';
import type { Random } from '@/core/simulate/random';
import { isLeadPlan, type PlainCut, type PlainPlan } from '../plainPlan';
import type { PlainSite } from '../plainSite';

export interface PlainFault {
  code: CauseCode;
  complaint: PlainPlan['complaint'];
  /** True as well where it is. */
  also?: readonly CauseCode[];
  fits?(plan: PlainPlan): boolean;
  patch(plan: PlainPlan, random: Random): void;
  /** Whether it did harm enough that somebody would be called. */
  hurts?(site: PlainSite): boolean;
}

/** Highest charge of a day, mean over the days but the first, %. */
export function dailyPeak({ truth }: PlainSite): number {
  const days = Math.floor(truth.length / 144);
  return mean(
    Array.from({ length: days - 1 }, (_, day) =>
      Math.max(...truth.slice(144 * (day + 1), 144 * (day + 2)).map((one) => one.held)),
    ),
  );
}

/** By how many points the reading is off at nine tenths of the moments; the first day is left out. */
export const readingOff = ({ truth }: PlainSite): number =>
  quantile(
    truth.slice(144).map((one) => Math.abs(one.held - one.shown)),
    0.9,
  );

export const neverFull = (site: PlainSite): boolean => dailyPeak(site) < 96;
export const drifts = (site: PlainSite): boolean => readingOff(site) > 12;
/** Cut-offs three and more, at what the battery held. */
export const cutsOften = ({ cuts }: PlainSite, from = 0, to = 100): boolean =>
  cuts.filter(({ held, isSeen }) => isSeen && held >= from && held <= to).length >= 3;

/** Hours so few and loads so large that what a charger does wrong is not made up for. */
export function busy(plan: PlainPlan, random: Random): void {
  plan.drawn = plan.capacityAh * random.uniform(0.28, 0.42);
  for (const one of plan.chargers) {
    if (one.kind === 'mains') one.hours = random.uniform(8, 12);
    const hours = one.kind === 'solar' ? 5 : one.hours;
    const least = (2 * plan.drawn) / hours / plan.chargers.length;
    one.givesA *= Math.max(1, least / one.ratedA);
    one.ratedA = Math.round(Math.max(least, one.ratedA));
    if (one.tailA !== undefined) one.tailA = 0.015 * plan.capacityAh + plan.drawn / 22;
  }
}

/** A reading that is logged beside the charger. */
export function counting(plan: PlainPlan): void {
  plan.logs = { ...plan.logs, charger: true, monitor: true, reading: true };
}

/** A heavy load now and then, that lets go at its own limit. */
export function heavy(plan: PlainPlan, random: Random): PlainCut {
  plan.logs = { ...plan.logs, charger: true, monitor: true };
  plan.everySeconds = Math.min(plan.everySeconds, 60);
  plan.monitorEverySeconds = plan.everySeconds;
  plan.cut = {
    amps: plan.capacityAh * random.uniform(0.15, 0.35),
    everyHours: random.pick([6, 8, 12, 24]),
    minutes: random.uniform(20, 80),
    volts: (isLeadPlan(plan) ? 11.4 : 12) * plan.blocks,
    percent: undefined,
    surge: undefined,
    ohms: 0.001 * plan.blocks,
    awaySeconds: random.uniform(1800, 7200),
    takesAll: random.next() < 0.4,
  };
  return plan.cut;
}
