/** What the logs show in the ten minutes before and after a cut-off, for a strip. */

import { type Channel, cellChannels, type Series } from '../log/channels';
import { firstAtOrAfter, gapLimit, medianStep } from '../log/grid';
import { anyLogWith, batteryLog, type Timeline } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { type LoadCurrent, loadBehind } from './loadCurrents';
import type { Around } from './types';

const REACH = 10 * MINUTE;
const STEP = 15_000;
const COUNT = (2 * REACH) / STEP + 1;

/** Reads a strip about a moment. @param loads with their own logs */
export function aroundReader(
  timeline: Timeline,
  loads: readonly LoadCurrent[],
): (at: number, by: string) => Around {
  const volts = batteryLog(timeline, 'battery_voltage');
  const amps = batteryLog(timeline, 'battery_current');
  const cells = anyLogWith(timeline, 'cell_01_voltage');
  const names = cells ? cellChannels(cells) : [];
  return (at, by) => {
    const from = at - REACH;
    const load = loadBehind(loads, by);
    const column = (log: Series | null, channel: Channel, furthest: Furthest = Math.min) =>
      log ? held(log.time, log.channels[channel]!, from, furthest) : null;
    const lowest = cells
      ? names.map((one) => column(cells, one)!).reduce((a, b) => a.map((one, i) => Math.min(one, b[i]!)))
      : null;
    return {
      from,
      stepMs: STEP,
      volts: column(volts, 'battery_voltage'),
      amps: column(amps, 'battery_current'),
      loadVolts: load?.volts ? held(load.time, load.volts, from, Math.min) : null,
      loadAmps: load && !load.hidden ? held(load.time, load.amps, from, Math.max) : null,
      lowestCell: lowest,
    };
  };
}

/** Of several values in a step the lowest, or the highest: a blast of seconds is what it is all about. */
type Furthest = (a: number, b: number) => number;

/** The furthest value of each step, or the last one before it; NaN in silence. */
function held(time: Float64Array, values: Float32Array, from: number, furthest: Furthest): Float32Array {
  const limit = gapLimit(medianStep(time));
  let at = firstAtOrAfter(time, from);
  return Float32Array.from({ length: COUNT }, (_, k) => {
    const now = from + k * STEP;
    let most = NaN;
    for (; at < time.length && time[at]! <= now; at++)
      if (values[at]! === values[at]!) most = most === most ? furthest(most, values[at]!) : values[at]!;
    if (most === most) return most;
    return at > 0 && now - time[at - 1]! <= limit ? values[at - 1]! : NaN;
  });
}
