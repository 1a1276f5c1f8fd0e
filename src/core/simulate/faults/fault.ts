/** What a fault is: a patch over the plan of a site in good order. Several can be laid over one site. */

import type { CauseCode } from '../../causes/codes';
import { mean, quantile } from '../../quantity/numbers';
import { DAY, HOUR, MINUTE } from '../../quantity/span';
import { REPORTED_STAGES, type ReportedStage } from '../../log/channels';
import type { Complaint } from '../../system/schema';
import type { SitePlan } from '../sitePlan';
import type { Random } from '../random';
import type { Truth } from '../site';

/** What a fault did to a site. */
export interface Outcome {
  /** Mean over days of the highest true state of charge, %; the first day is left out. */
  bestDaily: number;
  truth: Truth;
  plan: SitePlan;
}

export interface Fault {
  /** Code of the cause that it is, and what the owner complains of, undercharging if nothing is said. */
  code: CauseCode;
  complaint?: Complaint;
  /** What is then true as well: a source that never fills the battery is too small, whatever the reading does. */
  also?: readonly CauseCode[];
  /** It is one of a bank whose halves have a charger each. */
  ofHalves?: true;
  /** Whether a site can have it at all. */
  fits(plan: SitePlan): boolean;
  patch(plan: SitePlan, random: Random): void;
  /** Whether it did harm enough that a technician would be called: a short absorption that a long float makes up for is none. */
  hurts(outcome: Outcome): boolean;
}

/** Days so short, and loads so large, that what a charger does wrong is not made up for by the hours that follow. */
export function hurry(plan: SitePlan, random: Random): void {
  for (const one of plan.chargers)
    if (one.kind !== 'solar') {
      const start = random.uniform(0, 24);
      const runs = random.uniform(7, 13);
      one.present = (ms) => ((ms % DAY) / HOUR + 24 - start) % 24 < runs;
    }
  plan.meanLoadA = (plan.capacityAh * random.uniform(0.3, 0.45)) / 24;
  const hours = plan.chargers.some((one) => one.kind === 'solar') ? 5 : 9;
  const least = (2.2 * 24 * plan.meanLoadA) / hours / plan.chargers.length;
  for (const one of plan.chargers)
    if (one.ratedA < least) {
      one.givesA *= least / one.ratedA;
      one.ratedA = Number(least.toFixed(1));
    }
  plan.startCharge = random.uniform(0.45, 0.8);
}

export const neverFull = ({ bestDaily }: Outcome): boolean => bestDaily < 97;

/** Whether a charger holds the voltage of a stage at a sample. */
export const isHeld = (truth: Truth, charger: string, stage: ReportedStage, i: number): boolean =>
  truth.of[charger]!.source_stage![i] === REPORTED_STAGES.indexOf(stage) && truth.holding[charger]![i] === 1;

/** Minutes of a simulation at which something holds. */
export function minutesIn({ series: { time } }: Truth, holds: (i: number) => boolean): number {
  let count = 0;
  for (let i = 0; i < time.length; i++) if (holds(i)) count++;
  return (count * (time[1]! - time[0]!)) / MINUTE;
}

/** Mean over days of the lowest true state of charge, %. */
export function dailyLowest({ trueCharge }: Truth, days: number): number {
  const perDay = Math.floor(trueCharge.length / days);
  const lowest = Array.from({ length: days }, (_, day) =>
    trueCharge.subarray(day * perDay, (day + 1) * perDay).reduce((a, b) => Math.min(a, b), Infinity),
  );
  return mean(lowest);
}

/** How often a charger of the site went from absorption to float by itself. */
export function absorptionsEnded({ of }: Truth): number {
  const [absorption, float] = [REPORTED_STAGES.indexOf('absorption'), REPORTED_STAGES.indexOf('float')];
  return Object.values(of).reduce((sum, { source_stage: stage }) => {
    let count = 0;
    if (stage)
      for (let i = 1; i < stage.length; i++) if (stage[i - 1] === absorption && stage[i] === float) count++;
    return sum + count;
  }, 0);
}

/** The monitor is there, it logs, and its reading too. */
export function logReading(plan: SitePlan): void {
  plan.logsMonitor = true;
  plan.monitor.logsReading = true;
}

/** By how far the reading is off, %, at nine tenths of the moments; the first day is left out. */
export function readingOff({ truth, plan }: Outcome): number {
  const reading = truth.series.channels.soc!;
  const off = truth.trueCharge.map((one, i) => Math.abs(reading[i]! - one));
  return quantile(off.subarray(Math.floor(off.length / plan.days)), 0.9);
}

/** Every rise of the reading to 100 %, with what the battery then held, %. */
export function syncsOf({ series, trueCharge }: Truth): number[] {
  const reading = series.channels.soc!;
  const found: number[] = [];
  for (let i = 1; i < reading.length; i++)
    if (reading[i] === 100 && reading[i - 1]! < 99.5) found.push(trueCharge[i]!);
  return found;
}

/** Days on which the battery got full. */
export function fullDays({ truth: { trueCharge }, plan }: Outcome): number {
  const perDay = Math.floor(trueCharge.length / plan.days);
  let count = 0;
  for (let day = 0; day < plan.days; day++)
    if (trueCharge.subarray(day * perDay, (day + 1) * perDay).some((one) => one > 97)) count++;
  return count;
}
