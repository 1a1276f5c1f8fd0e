/** The battery's voltage as a load has just come: before its run has drawn anything down. */

import { firstAtOrAfter, medianStep } from '../log/grid';
import { interpolateAt } from '../log/interpolateAt';
import { batteryLog, type Timeline } from '../log/timeline';
import type { CutOff } from './types';

/** So many samples after it came, when both meters have seen it; then it draws what it goes with, within this part. */
const SAMPLES = 2;
const ALIKE = 0.15;

/** V; NaN where the current was another then, or neither was logged. */
export function voltsAtBegin(
  timeline: Timeline,
  { at, ranMs, amps }: Pick<CutOff, 'at' | 'ranMs' | 'amps'>,
): number {
  const log = batteryLog(timeline, 'battery_voltage');
  const current = batteryLog(timeline, 'battery_current');
  if (!log || !current || !(ranMs > 0)) return NaN;
  const { time } = log;
  const row = firstAtOrAfter(time, at - ranMs + SAMPLES * medianStep(time));
  if (!(time[row]! < at)) return NaN;
  const [drawn] = interpolateAt(current.time, current.channels.battery_current!, time.subarray(row, row + 1));
  return Math.abs(-drawn! / amps - 1) <= ALIKE ? log.channels.battery_voltage![row]! : NaN;
}
