/** A capacity test while it runs: what has come out so far, whether to stop, and when to read next. */

import { HOUR, MINUTE } from '../quantity/span';
import { ampHours, duration, percent, volts } from '../quantity/text';
import { drawnOver } from './effective';
import type { CapacityTestPlan } from './plan';
import type { TestReading } from './record';

export interface Running {
  /** Why the load comes off now; null while it runs on. */
  stop: string | null;
  /** Minutes since the start at which to read next. */
  readAt: number;
  /** What has come out so far, and what is left, a sentence each. */
  lines: string[];
}

/** Readings in the time that is expected, and in its last part (common practice, no source). */
const READS = { usual: 10, late: 20, lateFrom: 0.8 };
/** So near the end voltage it goes fast, parts of it. */
const NEAR = 1.03;

/** @param readings so far, the first at the start */
export function runningTest(
  plan: CapacityTestPlan,
  readings: readonly TestReading[],
  rated: { capacityAh: number; hours: number; exponent: number },
): Running | null {
  const last = readings.at(-1);
  if (!last) return null;
  const drawn = drawnOver(
    readings.map((one) => one.minutes * MINUTE),
    readings.map((one) => -one.amps),
    readings.map((one) => one.volts),
    { from: 0, to: readings.length - 1 },
    { gap: Infinity, rated, exponent: rated.exponent },
  );
  const soFar = (100 * drawn.effectiveAh) / (rated.capacityAh * plan.share);
  const expected = plan.expectedHours * 60;
  const left = expected - last.minutes;
  const lowCell = last.lowestCellVolts !== undefined && last.lowestCellVolts <= plan.lowestCellVolts;
  const stop =
    last.volts <= plan.endVolts
      ? `The bank is at ${volts(last.volts)}: the end voltage is ${volts(plan.endVolts)}. Take the load off now.`
      : lowCell
        ? `Cell ${last.cell ?? 'not named'} is at ${volts(last.lowestCellVolts!)}: one cell ends the test before the bank does. Take the load off now.`
        : null;
  const isLate = last.minutes > READS.lateFrom * expected || last.volts < NEAR * plan.endVolts;
  return {
    stop,
    readAt: Math.round(last.minutes + expected / (isLate ? READS.late : READS.usual)),
    lines: [
      `${ampHours(drawn.ampHours)} in ${duration(drawn.hours * HOUR)}: ${percent(soFar)} of the rating at 25 °C so far.`,
      ...(stop
        ? []
        : [
            left > 0
              ? `A battery in good order lasts about ${duration(left * MINUTE)} more.`
              : `It has lasted ${duration(-left * MINUTE)} longer than a battery in good order: the rating is beaten.`,
          ]),
    ],
  };
}
