/** Several files of one device joined into one series: a log that was fetched in parts, or fetched twice. */

import { type Channel, type Series, spanOf } from './channels';
import { medianStep } from './grid';

export interface Joined {
  series: Series;
  /** Moments that both hold. */
  shared: number;
  /** Of these, how many they tell differently: the second's value was taken. */
  differing: number;
}

/** All moments of both. Where both have one, the second's values count and the first's fill what it lacks. */
export function joinSeries(first: Series, second: Series): Joined {
  const a = first.time;
  const b = second.time;
  const time = new Float64Array(a.length + b.length);
  // For each moment its place in either; −1 where it has none.
  const inA = new Int32Array(time.length).fill(-1);
  const inB = new Int32Array(time.length).fill(-1);
  let count = 0;
  let shared = 0;
  for (let i = 0, k = 0; i < a.length || k < b.length; count++) {
    const next = Math.min(a[i] ?? Infinity, b[k] ?? Infinity);
    time[count] = next;
    if (a[i] === next) inA[count] = i++;
    if (b[k] === next) inB[count] = k++;
    if (inA[count]! >= 0 && inB[count]! >= 0) shared++;
  }
  const differs = new Uint8Array(count);
  const names = [...new Set([...Object.keys(first.channels), ...Object.keys(second.channels)])] as Channel[];
  const channels: Series['channels'] = {};
  for (const name of names) {
    const one = first.channels[name];
    const other = second.channels[name];
    channels[name] = Float32Array.from({ length: count }, (_, i) => {
      const was = one && inA[i]! >= 0 ? one[inA[i]!]! : NaN;
      const is = other && inB[i]! >= 0 ? other[inB[i]!]! : NaN;
      if (was === was && is === is && was !== is) differs[i] = 1;
      return is === is ? is : was;
    });
  }
  return {
    series: { device: second.device, time: time.slice(0, count), channels },
    shared,
    differing: differs.reduce((sum, one) => sum + one, 0),
  };
}

/** Steps further apart than this make two kinds of log: joined, the slower would look like one gap. */
const ALIKE_STEPS = 4;

/** Whether two series are parts of one log: the same device and something measured in common, sampled about as often. */
export function areOneLog(first: Series, second: Series): boolean {
  if (first.device !== second.device) return false;
  const ratio = medianStep(first.time) / medianStep(second.time);
  return (
    Object.keys(first.channels).some((name) => Object.hasOwn(second.channels, name)) &&
    ratio <= ALIKE_STEPS &&
    ratio >= 1 / ALIKE_STEPS
  );
}

/** Parts of one log joined, in the order of their beginnings; what is no part of another stays as it is. */
export function joinParts(series: readonly Series[]): Series[] {
  const joined: Series[] = [];
  for (const one of [...series].sort((a, b) => spanOf(a).from - spanOf(b).from)) {
    const at = joined.findIndex((other) => areOneLog(other, one));
    if (at < 0) joined.push(one);
    else joined[at] = joinSeries(joined[at]!, one).series;
  }
  return joined.sort((a, b) => order(series, a) - order(series, b));
}

/** Devices keep the order in which they were given. */
const order = (series: readonly Series[], one: Series): number =>
  series.findIndex((other) => other.device === one.device);
