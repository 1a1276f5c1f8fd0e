/** Voltages at which lithium stands for long while it is charged, though nobody set them. */

import { DAY } from '../quantity/span';
import { comesDownTo } from './names';
import { FLAT_PART } from './regulation';
import type { Setpoint } from './setpoint';
import { at25, type ChargeView } from './view';

/** Least part of the time at a voltage of the flat part that must look held, for one that is set. */
const MOSTLY_HELD = 0.35;

/**
 * Whether lithium merely stands at a voltage of its flat part, where it stays for hours whatever the charger does: of a voltage that is
 * set, most of the time spent there looks held. What the charger itself calls bulk there is none either.
 */
export function isPassedThrough(
  { volts, width, called }: Setpoint,
  view: ChargeView,
  held: Float32Array,
  least: number,
  voltsPerC: number,
): boolean {
  if (volts > FLAT_PART * view.blocks) return false;
  if (called === 'bulk') return true;
  let there = 0;
  let looksHeld = 0;
  for (let cell = 0; cell < held.length; cell++) {
    if (!(view.amps[cell]! > least) || !(Math.abs(at25(view, cell, voltsPerC) - volts) <= 2 * width))
      continue;
    there++;
    if (held[cell]! > 0.8) looksHeld++;
  }
  return looksHeld < MOSTLY_HELD * there;
}

/** V a 12 V block by which a charge goes past a voltage, so many cells of the day long, on so many days. */
const PAST = { by: 0.25, cells: 3, days: 2 };

/**
 * Whether lithium is charged on beyond its highest held voltage: nearly full, it stands for an hour at what a sinking sun gives. What is come
 * down to from there is a float.
 */
export function isChargedPast(
  setpoint: Setpoint,
  view: ChargeView,
  held: Float32Array,
  least: number,
  voltsPerC: number,
): boolean {
  if (setpoint.called !== null) return false;
  const above = setpoint.volts + PAST.by * view.blocks;
  const perDay = DAY / view.grid.step;
  const days = new Map<number, number>();
  for (let cell = 0; cell < view.grid.count; cell++) {
    if (!(view.amps[cell]! > least) || !(at25(view, cell, voltsPerC) > above)) continue;
    const day = Math.floor(cell / perDay);
    days.set(day, (days.get(day) ?? 0) + 1);
  }
  const past = [...days.values()].filter((count) => count >= PAST.cells).length;
  return past >= PAST.days && !comesDownTo(setpoint, view, held, voltsPerC);
}
