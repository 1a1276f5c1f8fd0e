/** What the faults that cut loads off share. */

import { isLead } from '../../system/chemistry';
import type { Random } from '../random';
import type { Cut } from '../site';
import type { CutPlan, SitePlan } from '../sitePlan';
import { logReading, type Outcome } from './fault';

/** Loads with a log of their own or not, settings told or not; the monitor is always there. */
export function cutting(plan: SitePlan, random: Random, some: Partial<CutPlan>): CutPlan {
  logReading(plan);
  plan.logsLoadsApart = random.next() < 0.6;
  plan.cut = {
    told: random.next() < 0.75,
    logsVolts: random.next() < 0.6,
    awaySeconds: random.pick([600, 900, 1800, 3600]),
    ...some,
  };
  return plan.cut;
}

/** A usual cut-off, V of the bank, and where the load comes back. */
export function usualCutoff(plan: SitePlan, random: Random): Pick<CutPlan, 'cutoffV' | 'reconnectV'> {
  const lead = isLead(plan.chemistry);
  const perBlock = lead ? random.pick([11.0, 11.2, 11.5]) : random.pick([11.0, 11.5, 12.0]);
  return { cutoffV: perBlock * plan.blocks, reconnectV: (perBlock + (lead ? 1.2 : 1.3)) * plan.blocks };
}

/** Runs of this part of the capacity in A, so long, every so many hours. */
export const heavy = (plan: SitePlan, random: Random, least: number, most: number): CutPlan['heavy'] => ({
  amps: plan.capacityAh * random.uniform(least, most),
  minutes: random.pick([4, 8, 12]),
  everyHours: random.pick([2, 3, 5]),
});

export const cutsOf = ({ truth }: Outcome, by?: Cut['by'], why?: Cut['why']): Cut[] =>
  truth.cuts.filter((one) => (by === undefined || one.by === by) && (why === undefined || one.why === why));

/** True charge at each cut-off, %. */
export const chargeAt = ({ truth }: Outcome, cuts: readonly Cut[]): number[] => {
  const { time } = truth.series;
  const step = time[1]! - time[0]!;
  return cuts.map(({ at }) => truth.trueCharge[Math.round((at - time[0]!) / step)]!);
};

/** Cut-offs that are apart by half an hour and more. */
export const apart = (cuts: readonly Cut[]): Cut[] =>
  cuts.filter((one, k) => k === 0 || one.at - cuts[k - 1]!.at > 1_800_000);

/** Enough of them that a technician is called, and not so many that nothing else happens. */
export const comeAgain = (cuts: readonly Cut[]): boolean => apart(cuts).length >= 2;
