/**
 * Regulated or supply-limited: the question behind every judgement of a charge. In regulation the voltage stands still while
 * the current moves by itself; with a limited supply the voltage follows the current, or climbs while the current stands still.
 */

import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Source } from '../system/schema';
import { clippedOf } from './clipped';
import type { Limit } from './limit';
import { SPARE, SPARES } from './spare';
import { OTHERS_HOLD } from './together';
import { type ChargeView, isConstant } from './view';
import { HOUR } from '../quantity/span';
import { clamp, mean } from '../quantity/numbers';
import { MOST_WINDOW, runningSums, shapeOf, type WindowShape } from './windows';

/** Half an hour and longer look flat for many reasons; these two windows see a short plateau and a slow climb. Minutes. */
const SHORT_MINUTES = 12;
const LONG_MINUTES = 45;

/** Scatter about its line, in parts of the drift, under which a window is a climb; the edge of a plateau has 0.17 at least. */
const CLIMBING = 0.13;

/**
 * Judges every cell of a view.
 * @param bank sets what resistance a battery of that size can at least have. @param onAmps from which a source gives
 * @returns per cell, natural log of the likelihood that the voltage is being held over that it follows the supply, −6 to 6: about 0
 *   where the log cannot tell, NaN in gaps
 */
export function judgeRegulation(
  view: ChargeView,
  bank: Pick<KnownBank, 'chemistry' | 'capacityAh'>,
  {
    limits,
    onAmps,
    source,
    answers,
    spare,
    loads,
  }: {
    limits: readonly Limit[];
    onAmps: number;
    source: Pick<Source, 'kind'> | null;
    /** Whether it answers rather than the other sources, {@link answersOf}. */
    answers: Float32Array | null;
    /** Where it has more to give, {@link spareOf}. */
    spare: Uint8Array;
    /** Whether it answers the loads rather than the battery, {@link answersLoads}. */
    loads: Float32Array | null;
  },
): Float32Array {
  const held = byMovement(view, bank, onAmps, spare, loads);
  const least = Math.min(...limits.map((one) => one.amps - one.width));
  const constant = isConstant(source?.kind) && !view.ampsAreBattery;
  for (let cell = 0; cell < held.length; cell++) {
    const amps = view.amps[cell]!;
    if (held[cell]! !== held[cell]!) continue;
    if (answers && answers[cell]! <= OTHERS_HOLD) held[cell] = Math.min(held[cell]!, answers[cell]!);
    if (limits.length === 0) continue;
    if (limits.some((one) => Math.abs(amps - one.amps) <= one.width))
      held[cell] = Math.min(held[cell]!, -AT_LIMIT);
    else if (constant && amps > onAmps && amps < 0.9 * least) held[cell] = Math.max(held[cell]!, BELOW_LIMIT);
  }
  return held;
}

/** What standing at the source's own limit says, and what giving less than any limit says, nats. */
const AT_LIMIT = 3;
const BELOW_LIMIT = 1.5;

/** What a top that the voltage comes back to says at the most, nats. */
const CLIPPED = 2;

/** From short windows alone: how voltage and current move together. */
function byMovement(
  view: ChargeView,
  { chemistry, capacityAh }: Pick<KnownBank, 'chemistry' | 'capacityAh'>,
  onAmps: number,
  spare: Uint8Array,
  loads: Float32Array | null,
): Float32Array {
  const { volts, amps, grid, blocks } = view;
  const held = new Float32Array(grid.count).fill(NaN);
  const sums = runningSums(volts, amps, 12.5 * blocks);
  const cellsOf = (minutes: number) =>
    Math.min(MOST_WINDOW, Math.max(5, Math.round((minutes * 60_000) / grid.step)));
  const short = cellsOf(SHORT_MINUTES);
  const long = cellsOf(LONG_MINUTES);
  // Voltage may move this much and still stand still: meter noise, or 30 mV a 12 V block of regulator ripple and cable drop.
  const still = Math.max(2.5 * view.voltNoise, 1.1 * view.voltQuantum, 0.03 * blocks);
  // A 12 V, 100 Ah battery answers slow changes of current with 12 mΩ at the very least, of lithium with 2.5 mΩ.
  const lithium = !isLead(chemistry);
  const leastOhms = ((lithium ? 0.25 : 1.2) / capacityAh) * blocks;
  const fromAbove = lithium ? comesFromAbove(view, onAmps) : null;
  const clipped = clippedOf(view, { onAmps, still, leastOhms });

  for (let cell = 0; cell < grid.count; cell++) {
    if (volts[cell]! !== volts[cell]! || amps[cell]! !== amps[cell]!) continue;
    const near = bestWindow(sums, cell, short, grid.count);
    if (!near) {
      held[cell] = 0;
      continue;
    }
    const moves = Math.max(Math.abs(near.drift), 2 * near.scatter);
    // How far the voltage would have moved had it followed this current.
    const would = 2 * leastOhms * near.ampSpread;
    let score: number;
    if (moves <= still) score = 0.4 + Math.min(4, (2 * would) / still);
    else {
      score = -Math.min(6, 1.5 * (moves / still - 1));
      if (near.slope > leastOhms && near.ampSpread > 3 * view.ampNoise) score -= 1;
      if (near.slope < 0 && near.ampSpread > 3 * view.ampNoise) score += 1;
    }
    // The flat part of lithium lies where it is floated: standing there shows nothing, unless the current moves and the voltage does not.
    if (spare[cell] !== SPARES.no && score > 0) score += SPARE;
    else if (loads && loads[cell]! >= 1 && score > 0) score += Math.min(2, loads[cell]!);
    else if (fromAbove && fromAbove[cell] === 0 && score > 0 && would < still) score = -0.3;
    else if (score > 0) {
      // Flat for minutes may still be a slow climb: then the longer window drifts whichever way it is laid.
      const far = bestWindow(sums, cell, long, grid.count);
      if (far) {
        const drifts = Math.max(Math.abs(far.drift), 2 * far.scatter);
        // A climb so slow that the short window could not see it; a steeper one it would have seen.
        const hidden = Math.abs(far.drift) * (short / long) < 2 * still;
        if (drifts <= 1.5 * still) score += 1.5;
        else if (would < still && hidden && far.scatter < CLIMBING * Math.abs(far.drift))
          score -= Math.min(5, 2 * (drifts / still - 1.5));
      }
    }
    if (score < CLIPPED && clipped[cell]! > 0 && fromAbove?.[cell] !== 0)
      score = Math.min(CLIPPED, clipped[cell]!);
    held[cell] = clamp(score, -6, 6);
  }
  return held;
}

/** V a 12 V block under which a lithium battery may stand of itself. */
export const FLAT_PART = 13.6;
/** V a 12 V block by which it was higher before, since the source began to give. */
const HIGHER = 0.25;

/** 1 where the voltage is above the flat part of lithium, or has come down since the source began to give. */
function comesFromAbove({ volts, amps, grid, blocks }: ChargeView, onAmps: number): Uint8Array {
  const out = new Uint8Array(grid.count);
  let highest = -Infinity;
  let idle = 0;
  for (let cell = 0; cell < grid.count; cell++) {
    if (amps[cell]! > onAmps) {
      if (idle * grid.step > 3 * HOUR && !(idle * grid.step < 12 * HOUR && isCaught(volts, cell)))
        highest = -Infinity;
      idle = 0;
    } else idle++;
    if (volts[cell]! > highest) highest = volts[cell]!;
    const higher = idle * grid.step <= 3 * HOUR && highest > volts[cell]! + HIGHER * blocks;
    out[cell] = volts[cell]! > FLAT_PART * blocks || higher ? 1 : 0;
  }
  return out;
}

/** Whether the voltage still came down when the source began to give: it catches it at the voltage that it holds. A charge lifts it. */
function isCaught(volts: Float32Array, start: number): boolean {
  const before = mean(volts.subarray(Math.max(0, start - 3), start));
  return mean(volts.subarray(start, start + 3)) < before;
}

/** The window before, around or after a cell in which the voltage stands stillest: an edge must not blur into a plateau. */
function bestWindow(sums: Float64Array, cell: number, size: number, count: number): WindowShape | null {
  let best: WindowShape | null = null;
  let least = Infinity;
  for (const from of [cell - size + 1, cell - (size >> 1), cell]) {
    if (from < 0 || from + size > count) continue;
    const shape = shapeOf(sums, from, from + size);
    if (!shape) continue;
    const moves = Math.max(Math.abs(shape.drift), 2 * shape.scatter);
    if (moves < least) {
      least = moves;
      best = shape;
    }
  }
  return best;
}
