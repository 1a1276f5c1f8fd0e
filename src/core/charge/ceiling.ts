/**
 * A voltage held so shortly that no window shows it, but every day again: charges end at the same highest voltage, and the charger
 * steps down from there. What the supply leaves to chance would differ from day to day.
 */

import { DAY, HOUR, MINUTE } from '../quantity/span';
import { median } from '../quantity/numbers';
import { at25, type ChargeView } from './view';

export interface Ceiling {
  /** V at 25 °C. */
  volts: number;
  /** The cell of the highest voltage on each of its days. */
  cells: number[];
}

/** Highest voltages that differ by no more than this are the same, V a 12 V block. */
const SAME = 0.025;
/** Least days, and least share of the days on which the source gave: with steps down from it, and without. */
const DAYS = 3;
const WITH_STEPS = 0.25;
const WITHOUT = 0.6;
/** V a 12 V block by which a charger steps down, within so long, while it goes on giving. */
const STEP_DOWN = 0.2;
const STEP_WITHIN = 40 * MINUTE;
/** Current at the ceiling in parts of the day's greatest, where no step is seen: at a held voltage it has fallen. */
const FALLEN = 0.85;

/** And what it gives at least where other sources may hold the voltage. */
const SHARES = 0.2;

/** Cells of the grid in a day, at the least. */
const LEAST_CELLS = 24;

interface Top {
  volts: number;
  cell: number;
  part: number;
  steps: boolean;
}

/** @param least current from which the source gives, A. @param leastVolts under which nothing is held on purpose, V */
export function ceilingOf(
  view: ChargeView,
  voltsPerC: number,
  least: number,
  leastVolts: number,
  shared: boolean,
): Ceiling | null {
  const tops = topsOf(view, voltsPerC, least).filter((one) => one.volts > leastVolts);
  const same = SAME * view.blocks + view.voltNoise;
  let best: Top[] = [];
  for (const one of tops) {
    const alike = tops.filter((other) => Math.abs(other.volts - one.volts) <= same);
    const above = tops.filter((other) => other.volts > one.volts + 2 * same).length;
    if (alike.length > best.length && above <= 0.15 * tops.length) best = alike;
  }
  if (best.length < DAYS) return null;
  const stepping = best.filter((one) => one.steps).length >= 0.6 * best.length;
  if (best.length < (stepping ? WITH_STEPS : WITHOUT) * tops.length) return null;
  // A voltage at which it gives next to nothing is held by another source.
  if (shared && median(best.map((one) => one.part)) < SHARES) return null;
  // A source that gives all it has to the end, day after day the same, ends days alike too.
  if (
    !stepping &&
    (view.ampsAreBattery || best.length < DAYS + 1 || median(best.map((one) => one.part)) > FALLEN)
  )
    return null;
  return { volts: median(best.map((one) => one.volts)), cells: best.map((one) => one.cell) };
}

/** The highest voltage of each day on which the source gave something. */
function topsOf(view: ChargeView, voltsPerC: number, least: number): Top[] {
  const { grid, amps } = view;
  const perDay = Math.round(DAY / grid.step);
  const within = Math.max(2, Math.round(STEP_WITHIN / grid.step));
  const hour = Math.max(3, Math.round((2 * HOUR) / grid.step));
  const tops: Top[] = [];
  // Cells of hours have no tops worth the name.
  if (perDay < LEAST_CELLS) return tops;
  for (let from = 0; from < grid.count; from += perDay) {
    let best = -1;
    let highest = -Infinity;
    let most = 0;
    const to = Math.min(grid.count, from + perDay);
    for (let cell = from; cell < to; cell++) {
      const volts = at25(view, cell, voltsPerC);
      if (amps[cell]! > most) most = amps[cell]!;
      if (amps[cell]! > least && volts > highest) {
        highest = volts;
        best = cell;
      }
    }
    if (best < 0) continue;
    let steps = false;
    // The last moment at about that voltage, and what follows it.
    let last = best;
    while (last + 1 < to && at25(view, last + 1, voltsPerC) > highest - 0.1 * view.blocks) last++;
    let gives = 0;
    for (let cell = last + 1; cell < Math.min(grid.count, last + hour); cell++) {
      if (amps[cell]! > least) gives++;
      if (cell <= last + within && at25(view, cell, voltsPerC) < highest - STEP_DOWN * view.blocks)
        steps = true;
    }
    tops.push({ volts: highest, cell: best, part: amps[best]! / most, steps: steps && gives > 0.3 * hour });
  }
  return tops;
}
