/**
 * Who answers: what loads ask for shows in the current of the source that holds the voltage. A source that gives all it has answers
 * nobody, however still the voltage stands; then the battery takes or gives the difference, or another source does.
 */

import { clamp, quantile } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import { compareMoves } from './moves';
import { SPARES } from './spare';
import type { ChargeView } from './view';

/** The most that is said, nats. */
const MOST = 4;
/** From here on the others hold the voltage. */
export const OTHERS_HOLD = -1;
/** Correlation of the changes from which both answer, and under which exactly one does. */
const BOTH = 0.4;
const ONE = -0.6;
/** Mains and engines that give less than this part of their most hold a voltage; what that says, nats. */
const BELOW = 0.8;
const THEY_HOLD = -1.2;
/** Loads are seen in changes over so long: chargers and monitors write at different moments. */
const LAG = 6 * MINUTE;

/**
 * Evidence per cell, nats, that this source answers rather than the other sources: negative where they hold the voltage, 0 where
 * nothing can be told. Null where their current is not known.
 * @param constant of this source: it gives all it has or less, like mains and engines, and nothing that comes and goes by itself
 */
export function answersOf(
  view: ChargeView,
  onAmps: number,
  constant: boolean,
  spare: Uint8Array,
): Float32Array | null {
  const { others, amps, grid } = view;
  if (!others || view.ampsAreBattery) return null;
  const out = new Float32Array(grid.count);
  const own = { amps, noise: view.ampNoise };
  const movesAt = compareMoves(own, others, grid.step, grid.step);
  const theirMost = others.constant && !constant ? BELOW * quantile(others.amps, 0.98) : 0;
  for (let cell = 0; cell < grid.count; cell++) {
    if (!(amps[cell]! > onAmps) || !(others.amps[cell]! > onAmps)) continue;
    if (spare[cell] === SPARES.itself) continue;
    // Mains that give less than they can hold a voltage, and two rarely hold the same.
    if (others.amps[cell]! < theirMost) out[cell] = THEY_HOLD;
    const moves = movesAt(cell);
    if (!moves) continue;
    if (moves.one && moves.other && moves.alike > BOTH) {
      out[cell] = 1;
      continue;
    }
    // Where one gives what the other leaves, and one of them gives less only when it holds a voltage, it is that one.
    const surely = moves.alike < ONE && constant !== others.constant ? (constant ? MOST : -MOST) : 0;
    out[cell] = clamp(moves.more + surely, -MOST, MOST);
  }
  return out;
}

/**
 * Evidence per cell, nats, that this source answers the loads rather than the battery: a source that holds a voltage gives what they
 * ask for, and the battery's current stays as it is. Null where the battery's current is not known beside the source's own.
 */
export function answersLoads(view: ChargeView, onAmps: number): Float32Array | null {
  const { batteryAmps, batteryNoise, amps, grid } = view;
  if (!batteryAmps || view.ampsAreBattery) return null;
  const out = new Float32Array(grid.count);
  const movesAt = compareMoves(
    { amps, noise: view.ampNoise },
    { amps: batteryAmps, noise: batteryNoise },
    grid.step,
    LAG,
  );
  for (let cell = 0; cell < grid.count; cell++)
    if (amps[cell]! > onAmps) out[cell] = clamp(movesAt(cell)?.more ?? 0, -MOST, MOST);
  return out;
}
