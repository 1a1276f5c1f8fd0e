/**
 * How held voltages wander with the weather where no temperature was logged: the days' histograms of held voltage are laid over each
 * other. Absorption and float of a day move together, so the pattern of the two is what is followed.
 */

import { DAY } from '../quantity/span';
import { clamp } from '../quantity/numbers';
import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Source } from '../system/schema';
import type { ChargeView } from './view';

/** V a 12 V block: steps of the histograms, the furthest that a day may lie from the one before, and from the first. */
const BIN = 0.01;
const A_DAY = 0.12;
const AT_MOST = 0.6;
/** Neighbours by which a bin is smoothed. */
const SMOOTH = 3;
const ROUNDS = 4;
/** Cells of the grid in a day, at the least. */
const LEAST_CELLS = 24;

/** From where on a voltage counts as held on purpose: above rest, V, with so much current at least, A. */
export function heldFrom(view: ChargeView, bank: KnownBank): { restVolts: number; least: number } {
  return {
    restVolts: (isLead(bank.chemistry) ? 13 : 13.2) * view.blocks,
    // Beside others that may hold the voltage, what a meter shows of nothing must not pass for giving.
    least: view.ampsAreBattery
      ? -2 * view.ampNoise
      : Math.max((view.others ? 2 : 1) * view.ampNoise, 0.001 * bank.capacityAh),
  };
}

/** Whether the charger may follow the battery's temperature, by what is known of it. */
export const mayFollow = (bank: KnownBank, source: Source | null): boolean =>
  isLead(bank.chemistry) && source?.profile.compensationMvPerCellPerC !== 0;

/** The view with how its held voltages wander, where that has to be guessed: lead, no temperature, a charger that may follow one. */
export function withDrift(
  view: ChargeView,
  held: Float32Array,
  bank: KnownBank,
  source: Source | null,
): ChargeView {
  if (view.celsius || !mayFollow(bank, source)) return view;
  const { restVolts, least } = heldFrom(view, bank);
  return { ...view, drift: driftOf(view, held, least, restVolts) };
}

/** V to take off each cell; null when there are too few days, or when nothing wanders. */
function driftOf(
  view: ChargeView,
  held: Float32Array,
  least: number,
  leastVolts: number,
): Float32Array | null {
  const { grid, volts, amps, blocks } = view;
  const bin = BIN * blocks;
  const perDay = Math.round(DAY / grid.step);
  const days = Math.ceil(grid.count / perDay);
  // Cells of hours have no plateaus to follow.
  if (perDay < LEAST_CELLS || days < 4) return null;
  const reach = Math.round(AT_MOST / BIN);
  const low = Math.floor(leastVolts / bin) - 2 * reach;
  const size = Math.round((3.2 * blocks) / bin) + 4 * reach;
  const histograms = Array.from({ length: days }, () => new Float32Array(size));
  for (let cell = 0; cell < grid.count; cell++) {
    if (!(held[cell]! > 0.8) || !(volts[cell]! > leastVolts) || !(amps[cell]! > least)) continue;
    const at = clamp(Math.round(volts[cell]! / bin) - low, SMOOTH, size - 1 - SMOOTH);
    const day = histograms[Math.floor(cell / perDay)]!;
    for (let k = -SMOOTH; k <= SMOOTH; k++) day[at + k]! += 1 - Math.abs(k) / (SMOOTH + 1);
  }
  // Long floats must not drown short absorptions.
  for (const day of histograms) for (let k = 0; k < size; k++) day[k] = Math.sqrt(day[k]!);
  const shifts = new Int32Array(days);
  const step = Math.round(A_DAY / BIN);
  for (let round = 0; round < ROUNDS; round++) {
    const pattern = new Float32Array(size);
    histograms.forEach((day, d) => {
      for (let k = 0; k < size; k++) pattern[k]! += day[clamp(k + shifts[d]!, 0, size - 1)]!;
    });
    let before = 0;
    histograms.forEach((day, d) => {
      const from = d === 0 ? shifts[0]! : before;
      let best = from;
      let most = -1;
      for (let s = Math.max(-reach, from - step); s <= Math.min(reach, from + step); s++) {
        let overlap = -0.002 * Math.abs(s - from);
        for (let k = reach; k < size - reach; k++)
          overlap += day[k + s]! * (pattern[k]! - day[clamp(k + shifts[d]!, 0, size - 1)]!);
        if (overlap > most) {
          most = overlap;
          best = s;
        }
      }
      shifts[d] = before = best;
    });
  }
  const middle = [...shifts].sort((a, b) => a - b)[days >> 1]!;
  if (shifts.every((one) => Math.abs(one - middle) <= 2)) return null;
  return Float32Array.from({ length: grid.count }, (_, cell) => {
    // From noon to noon of the grid's days, on the line between them.
    const at = clamp(cell / perDay - 0.5, 0, days - 1);
    const day = Math.floor(at);
    const next = Math.min(days - 1, day + 1);
    return bin * (shifts[day]! + (shifts[next]! - shifts[day]!) * (at - day) - middle);
  });
}
