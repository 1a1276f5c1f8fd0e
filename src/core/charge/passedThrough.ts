/** Voltages at which lithium stands for long while it is charged, though nobody set them. */

import { mean } from '../quantity/numbers';
import { DAY, HOUR, MINUTE } from '../quantity/span';
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

/**
 * V a 12 V block by which a charge goes past a voltage, for so long a day, on so many days; and the hours for which a float is then kept on
 * such a day, once it has come down.
 */
const PAST = { by: 0.25, ms: 3 * MINUTE, days: 2, kept: 1.5 };

/**
 * Whether lithium is charged on beyond its highest held voltage: nearly full, it stands for an hour at what a sinking sun gives. What is come
 * down to from there, or kept for long after it, is a float.
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
  const days = new Map<number, { past: number; kept: number }>();
  for (let cell = 0; cell < view.grid.count; cell++) {
    if (!(view.amps[cell]! > least)) continue;
    const volts = at25(view, cell, voltsPerC);
    const day = Math.floor(cell / perDay);
    const { past, kept } = days.get(day) ?? { past: 0, kept: 0 };
    if (volts > above) days.set(day, { past: past + 1, kept: 0 });
    else if (past > 0 && Math.abs(volts - setpoint.volts) <= 2 * setpoint.width)
      days.set(day, { past, kept: kept + 1 });
  }
  const gone = [...days.values()].filter(({ past }) => past * view.grid.step >= PAST.ms);
  const hours = (mean(gone.map(({ kept }) => kept)) * view.grid.step) / HOUR;
  return gone.length >= PAST.days && hours < PAST.kept && !comesDownTo(setpoint, view, held, voltsPerC);
}
