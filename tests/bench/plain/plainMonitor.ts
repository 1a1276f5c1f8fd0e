/** The counter of a plain site. */

import type { PlainMonitor } from './plainPlan';

export interface RunningMonitor {
  /** What it shows, %. */
  readonly shown: number;
  /** A that it sees pass: what passes it, with its own gain and zero. */
  sees(amps: number): number;
  /** Counts a step. @returns whether it called the battery full now */
  count(seen: number, volts: number, seconds: number): boolean;
  setTo(percent: number): void;
}

/** @param start true charge as it is set up, 0 to 1 @param guess its percentage by voltage */
export function plainMonitor(
  plan: PlainMonitor,
  start: number,
  guess: (volts: number) => number,
): RunningMonitor {
  let count = ((plan.startReading ?? 100 * start) / 100) * plan.capacityAh;
  let held = 0;
  const clamped = () => Math.min(plan.capacityAh, Math.max(0, count));
  return {
    get shown() {
      return (100 * count) / plan.capacityAh;
    },
    sees: (amps) => amps * plan.gain + plan.offsetA,
    count(seen, volts, seconds) {
      const before = count;
      const rate = Math.max(1, (Math.abs(seen) / (plan.capacityAh / 20)) ** (plan.peukert - 1));
      count += (seen * (seen > 0 ? plan.efficiency / 100 : rate) * seconds) / 3600;
      count = clamped();
      if (plan.byVolts) {
        count = (guess(volts) / 100) * plan.capacityAh;
        count = clamped();
        return false;
      }
      if (plan.bulkEndPercent !== undefined) return false;
      const isCharged = volts > plan.chargedV && Math.abs(seen) < (plan.tailPercent / 100) * plan.capacityAh;
      held = isCharged ? held + seconds : 0;
      if (held >= Math.max(seconds, 60 * plan.minutes)) count = plan.capacityAh;
      return count === plan.capacityAh && before < 0.995 * plan.capacityAh && held > 0;
    },
    setTo(percent) {
      count = (percent / 100) * plan.capacityAh;
    },
  };
}
