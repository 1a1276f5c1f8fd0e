/**
 * Moments in which a source plainly has more to give than it gives: then its voltage is held, by it or by another, however flat the
 * battery's own voltage may lie there. Three things show it: the battery neither takes nor gives while the source carries the loads; the
 * sun gives a small part of what it gave at that height; its current stands still while the sun sinks.
 */

import { quantile } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import { MOST_WINDOW } from './windows';
import type { ChargeView } from './view';

/** Nothing to spare is seen; somebody holds the voltage; this source does. */
export const SPARES = { no: 0, somebody: 1, itself: 2 } as const;
/** What such a moment says for a held voltage, nats. */
export const SPARE = 1.5;

/** So long the battery's current stands at nothing, for such a part of that, within this part of its capacity (common practice, no source). */
const AT_REST = 60 * MINUTE;
const MOSTLY = 0.75;
const NOTHING = 0.0015;
/** Seen from the battery alone, loads that pause look the same: then it gives more than so many times that in these hours before or after. */
const PAUSE = { around: 3 * HOUR, gives: 2 };
/** Loads are seen where they take so many times that over such a stretch; seen from the battery alone, for this part of the log. */
const CARRIED = 3;
const LOADS = 4;
const DRAWN = 0.1;
/** Under this part of what the sun gave at that height, no cloud is so thick. */
const DARKEST = 0.07;
/** Under this height of the day's arc, of one, nothing is said. */
const LOW_SUN = 0.3;

/** Where a source has more to give than it gives ({@link SPARES}), per cell. @param night 1 where the sun is down; null for a source
 * that needs none. @param constant mains or an engine */
export function spareOf(
  view: ChargeView,
  capacityAh: number,
  onAmps: number,
  { night, constant }: { night: Uint8Array | null; constant: boolean },
): Uint8Array {
  const out = new Uint8Array(view.grid.count);
  atRest(view, capacityAh, { onAmps, constant }, out);
  if (night && !view.ampsAreBattery) {
    const height = heights(night);
    lowForTheSun(view, onAmps, height, out);
    standsForTheSun(view, onAmps, height, out);
  }
  return out;
}

/** Where the battery's current stands at nothing while the source gives what the loads take. */
function atRest(
  { batteryAmps, batteryNoise, amps, ampsAreBattery, grid }: ChargeView,
  capacityAh: number,
  { onAmps, constant }: { onAmps: number; constant: boolean },
  out: Uint8Array,
) {
  if (!batteryAmps) return;
  const size = Math.min(MOST_WINDOW, Math.max(3, Math.round(AT_REST / grid.step)));
  const within = Math.max(NOTHING * capacityAh, 2 * batteryNoise);
  // Seen through the battery's current alone, loads that run at other times run on: somebody carries them.
  if (ampsAreBattery && !drawnUpon(batteryAmps, LOADS * within)) return;
  // A source that gives all it has may happen to give just what the loads take.
  const most = constant && !ampsAreBattery ? AT_MOST * quantile(amps, 0.98) : Infinity;
  const least = ampsAreBattery ? -Infinity : Math.max(onAmps, CARRIED * within);
  const isStill = (cell: number) => Math.abs(batteryAmps[cell]!) <= within && amps[cell]! < most;
  // A pump that starts takes a moment of it from the battery; and what counts is what the source gives over the whole stretch.
  const isPause = ampsAreBattery ? pauses(batteryAmps, grid.step, PAUSE.gives * within) : () => false;
  let still = 0;
  let given = 0;
  let marked = 0;
  for (let cell = 0; cell < grid.count; cell++) {
    if (isStill(cell)) {
      still++;
      given += amps[cell]!;
    }
    const left = cell - size;
    if (left >= 0 && isStill(left)) {
      still--;
      given -= amps[left]!;
    }
    if (left < -1 || still < MOSTLY * size || !(given > least * still) || isPause(left + 1, cell)) continue;
    for (let k = Math.max(left + 1, marked); k <= cell; k++) if (isStill(k)) out[k] = SPARES.somebody;
    marked = cell + 1;
  }
}

/** Whether the battery gave more than that on the mean of the hours before a stretch of cells, or of those after it. */
function pauses(
  batteryAmps: Float32Array,
  step: number,
  amps: number,
): (from: number, to: number) => boolean {
  const around = Math.round(PAUSE.around / step);
  const sums = new Float64Array(batteryAmps.length + 1);
  batteryAmps.forEach((one, cell) => (sums[cell + 1] = sums[cell]! + (one || 0)));
  const mean = (from: number, to: number) => {
    const first = Math.max(0, from);
    const end = Math.min(batteryAmps.length, to);
    return end > first ? (sums[end]! - sums[first]!) / (end - first) : 0;
  };
  return (from, to) => mean(from - around, from) < -amps || mean(to + 1, to + 1 + around) < -amps;
}

/** Whether loads draw so much from the battery for a good part of the log. */
const drawnUpon = (batteryAmps: Float32Array, least: number): boolean =>
  batteryAmps.reduce((count, one) => count + (one < -least ? 1 : 0), 0) > DRAWN * batteryAmps.length;

/** Where the sun, by its height and by what it gave at other heights, must have far more. */
function lowForTheSun({ amps, grid }: ChargeView, onAmps: number, height: Float32Array, out: Uint8Array) {
  const most: number[] = [];
  for (let cell = 0; cell < grid.count; cell++)
    if (height[cell]! > LOW_SUN && amps[cell]! > onAmps) most.push(amps[cell]! / height[cell]!);
  if (most.length < 10) return;
  const clear = quantile(most, 0.95);
  const half = Math.max(2, Math.round((15 * MINUTE) / grid.step));
  const isLow = (cell: number) => height[cell]! > LOW_SUN && amps[cell]! <= DARKEST * clear * height[cell]!;
  // Low for most of half an hour: a cloud or a jump of the meter is not.
  let low = 0;
  for (let cell = 0; cell < grid.count; cell++) {
    if (isLow(cell)) low++;
    if (cell > 2 * half && isLow(cell - 2 * half - 1)) low--;
    const middle = cell - half;
    if (low > half && middle >= half && amps[middle]! > onAmps && isLow(middle)) out[middle] = SPARES.itself;
  }
}

/** A current that keeps within this part of itself stands still, for so long, while the sun's height goes down to such a part. */
const STANDS = 0.12;
const FOR = 2 * HOUR;
const HEIGHT_FALLS = 0.8;
/** At this part of its most a controller may be at its own limit. */
const AT_MOST = 0.85;

/** Where a current stands still while the sun climbs or sinks: it is not the sun that sets it. */
function standsForTheSun(view: ChargeView, onAmps: number, height: Float32Array, out: Uint8Array) {
  const { amps, grid } = view;
  const most = quantile(amps, 0.99) * AT_MOST;
  const cells = Math.max(3, Math.round(FOR / grid.step));
  const within = (low: number, high: number) => high - low <= Math.max(2 * STANDS * low, 6 * view.ampNoise);
  let from = 0;
  let low = Infinity;
  let high = -Infinity;
  for (let cell = 0; cell <= grid.count; cell++) {
    const now = cell < grid.count && height[cell]! > LOW_SUN / 2 ? amps[cell]! : NaN;
    const stands = now > onAmps && now < most && within(Math.min(low, now), Math.max(high, now));
    if (stands) {
      low = Math.min(low, now);
      high = Math.max(high, now);
      continue;
    }
    if (cell - from >= cells) {
      const arc = height.subarray(from, cell);
      let least = Infinity;
      let top = 0;
      for (const one of arc) {
        if (one < least) least = one;
        if (one > top) top = one;
      }
      if (least < HEIGHT_FALLS * top) out.fill(SPARES.itself, from, cell);
    }
    // What broke the stretch may begin the next.
    const begins = now > onAmps && now < most;
    from = begins ? cell : cell + 1;
    low = begins ? now : Infinity;
    high = begins ? now : -Infinity;
  }
}

/** Height of the sun on its arc from the first light to the last, 0 to 1, from the nights alone. */
function heights(night: Uint8Array): Float32Array {
  const out = new Float32Array(night.length);
  let cell = 0;
  while (cell < night.length) {
    if (night[cell] === 1) {
      cell++;
      continue;
    }
    let end = cell;
    while (end < night.length && night[end] === 0) end++;
    // Days that the log cuts off have no middle.
    if (cell > 0 && end < night.length)
      for (let k = cell; k < end; k++) out[k] = Math.sin((Math.PI * (k - cell + 0.5)) / (end - cell));
    cell = end;
  }
  return out;
}
