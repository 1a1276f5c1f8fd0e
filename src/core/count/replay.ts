/**
 * The monitor's count done again, sample by sample: what a faithful counter with given settings would have shown of the current and
 * voltage that were logged. Some thirty million samples a second, so that a slider can be dragged.
 */

import { HOUR } from '../quantity/span';
import { gapLimit, medianStep } from '../log/grid';
import type { CounterLog } from './counterLog';
import type { CounterSettings } from './settings';

/** A sync: the count was set to 100 %. */
export interface ReplayedSync {
  /** Index of the sample at which it happened. */
  index: number;
  /** What the count stood at before, %. */
  from: number;
}

export interface Replay {
  /** %, one a sample. */
  reading: Float32Array<ArrayBuffer>;
  syncs: ReplayedSync[];
}

/** Hours at which a capacity holds, by which monitors reckon the rated current. */
const RATED_HOURS = 20;

/** Peukert's weight at multiples of the rated current, a table with lines between: no power in the loop. */
const TABLE = { perRate: 32, rates: 64 };

function weights({ peukert, peukertBelowRate }: CounterSettings): Float64Array {
  const table = new Float64Array(TABLE.perRate * TABLE.rates + 2);
  for (let i = 0; i < table.length; i++) {
    const faster = Math.max(i / TABLE.perRate, 0.01);
    table[i] = faster > 1 || peukertBelowRate ? faster ** (peukert - 1) : 1;
  }
  return table;
}

/**
 * @param start reading at the first sample, % @param out array to fill, where one is kept from frame to frame
 * @param resets moments, epoch ms in order, at which the count is set to a fixed charge, %
 * Between samples the current is the mean of both; nothing is counted in a gap, the count stands.
 * As in the devices: current compared with the tail without its sign, and never above 100 % or under nothing.
 */
export function replay(
  { time, amps, volts }: Pick<CounterLog, 'time' | 'amps' | 'volts'>,
  settings: CounterSettings,
  start: number,
  out?: Float32Array<ArrayBuffer>,
  resets: { ends: readonly number[]; percent: number } = NONE,
): Replay {
  const n = time.length;
  const reading = out ?? new Float32Array(n);
  const syncs: ReplayedSync[] = [];
  if (n === 0) return { reading, syncs };
  const limit = gapLimit(medianStep(time));
  const { capacityAh, chargedV, thresholdA } = settings;
  const perAmpMs = 100 / (capacityAh * HOUR);
  const gain = (perAmpMs * settings.efficiencyPercent) / 100;
  const tail = (settings.tailPercent / 100) * capacityAh;
  const holdMs = settings.detectionMinutes * 60_000;
  const table = weights(settings);
  const scale = (TABLE.perRate * RATED_HOURS) / capacityAh;
  const last = table.length - 2;
  const belowRate = settings.peukertBelowRate || settings.peukert === 1 ? -Infinity : TABLE.perRate;
  const { ends } = resets;
  let next = ends.findIndex((one) => one >= time[0]!);
  let nextEnd = next < 0 ? Infinity : ends[next]!;
  let percent = start;
  let held = 0;
  let before = amps[0]!;
  let then = time[0]!;
  reading[0] = percent;
  for (let i = 1; i < n; i++) {
    const now = time[i]!;
    const ms = now - then;
    const current = amps[i]!;
    then = now;
    if (now >= nextEnd) {
      percent = resets.percent;
      while (next < ends.length && ends[next]! <= now) next++;
      nextEnd = next < ends.length ? ends[next]! : Infinity;
    }
    const middle = (current + before) / 2;
    before = current;
    if (ms > limit || middle !== middle) {
      held = 0;
      reading[i] = percent;
      continue;
    }
    if (middle > 0) {
      if (middle >= thresholdA) percent += middle * gain * ms;
    } else if (-middle >= thresholdA) {
      const at = -middle * scale;
      let weight = 1;
      if (at > belowRate) {
        const low = at < last ? at | 0 : last;
        weight = table[low]! + (table[low + 1]! - table[low]!) * Math.min(1, at - low);
      }
      percent += middle * weight * perAmpMs * ms;
    }
    if (percent > 100) percent = 100;
    else if (percent < 0) percent = 0;
    if (volts !== null && volts[i]! >= chargedV && (current < 0 ? -current : current) < tail) {
      held += ms;
      if (held > holdMs && percent < 100) {
        if (percent < SYNC_BELOW) syncs.push({ index: i, from: percent });
        percent = 100;
      }
    } else held = 0;
    reading[i] = percent;
  }
  return { reading, syncs };
}

const NONE = { ends: [], percent: NaN };

/** A count that is set to 100 % from this or more makes no jump that anybody sees. */
export const SYNC_BELOW = 99.5;
