/** Random sites in good order, and with faults laid over them, for judging stages and weights and for tests. */

import { buildJob, type BuiltJob } from './buildJob';
import { type Fault, type Outcome, readingOff } from './faults/fault';
import type { Random } from './random';
import { drawPlan, type SitePlan } from './sitePlan';

export interface RandomJob extends BuiltJob {
  plan: SitePlan;
  /** Mean over days of the highest true state of charge, %, to see what the faults did. */
  bestDaily: number;
}

/** A reading that is further off than this for a tenth of the time, %, is no good one. */
const HONEST = 12;

/**
 * A site with faults, or with none. The same random numbers give the same site. A site that does not fit the faults, that is not
 * hurt by them, or that does not get full without any, is drawn again.
 * @param wanted looks at a plan before it is simulated, for tests that want sites of a kind
 * @param most sites that are simulated before it is given up
 */
export function randomJob(
  faults: readonly Fault[],
  random: Random,
  wanted: (plan: SitePlan) => boolean = () => true,
  most = Infinity,
): RandomJob {
  let simulated = 0;
  for (let tries = 0; tries < 2000 && simulated < most; tries++) {
    const plan = drawPlan(random);
    if (!wanted(plan) || !faults.every((one) => one.fits(plan))) continue;
    // Most faults are patches of a bank that is charged as a whole.
    if (plan.halves && !faults.every((one) => one.ofHalves)) continue;
    for (const one of faults) one.patch(plan, random);
    if (faults.length > 0)
      plan.complaints = [...new Set(faults.map((one) => one.complaint ?? 'undercharging'))];
    simulated++;
    const built = buildJob(plan, random);
    const bestDaily = bestDailyOf(
      built.truth.trueCharge,
      Math.round((86_400 * plan.chargeEveryDays) / Math.min(30, plan.everySeconds)),
    );
    const outcome: Outcome = { bestDaily, truth: built.truth, plan };
    // A log too short to show one charge after another shows nothing.
    if (!Number.isFinite(bestDaily)) continue;
    if (
      faults.length === 0
        ? bestDaily > 97 && !(readingOff(outcome) > HONEST)
        : faults.every((one) => one.hurts(outcome))
    )
      return { ...built, plan, bestDaily };
  }
  throw new Error(
    `No site with ${faults.map((one) => one.code).join(' and ') || 'nothing wrong'} came up in so many draws.`,
  );
}

/** Mean of the highest charge from one charge to the next. */
function bestDailyOf(charge: Float32Array, perDay: number): number {
  let total = 0;
  let days = 0;
  for (let start = perDay; start + perDay <= charge.length; start += perDay) {
    total += charge.subarray(start, start + perDay).reduce((a, b) => Math.max(a, b), 0);
    days++;
  }
  return total / days;
}
