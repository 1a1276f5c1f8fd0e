/** A source that gives nothing whenever the battery is cold, though at those hours it usually gives. */

import { isNumber, quantile } from '../quantity/numbers';
import { DAY, MINUTE } from '../quantity/span';
import { binsOfDay } from '../log/grid';
import type { ChargeView } from './view';

export interface ColdIdle {
  /** Temperature under which it gave nothing, °C. */
  belowC: number;
  /** Hours below it at times of the day at which it usually gives, and the share of them in which it gave. */
  hours: number;
  gaveBelow: number;
  /** Share of such hours above it in which it gave. */
  gaveAbove: number;
}

/** A source that gave nothing all along. */
export interface NeverGave {
  /** The warmest that the battery was meanwhile, °C. */
  warmestC: number;
  /** Half of the time it was colder than this, °C, and two thirds of it. */
  middleC: number;
  mostlyC: number;
  days: number;
}

/** Days that show it, and the share of the log in which it may have given something all the same. */
const LEAST_DAYS = 2;
const HARDLY = 0.01;

/** Null where it gave something, or where the temperature was not logged. */
export function neverGave({ celsius, amps, grid }: ChargeView, onAmps: number): NeverGave | null {
  const days = (grid.count * grid.step) / DAY;
  if (!celsius || days < LEAST_DAYS) return null;
  let gave = 0;
  let warmestC = -Infinity;
  for (let cell = 0; cell < grid.count; cell++) {
    if (amps[cell]! > onAmps) gave++;
    if (celsius[cell]! > warmestC) warmestC = celsius[cell]!;
  }
  if (gave > HARDLY * grid.count || warmestC === -Infinity) return null;
  const logged = celsius.filter(isNumber);
  return { warmestC, middleC: quantile(logged, 0.5), mostlyC: quantile(logged, 2 / 3), days };
}

const BIN = 30 * MINUTE;
const LIMITS = [0, 1, 2, 3, 4, 5, 6, 8, 10];
/** Hours that show it: in the cold, and above it, where it must have given. */
const LEAST_HOURS = 4;
const LEAST_ABOVE = 1.5;

/** @param highest V above which a source has no reason to give: it is full. Null without a temperature, or where cold made no difference */
export function coldIdleOf(view: ChargeView, onAmps: number, highest: number): ColdIdle | null {
  const { grid, celsius, amps, volts } = view;
  if (!celsius?.some((one) => one < LIMITS.at(-1)!)) return null;
  const bins = DAY / BIN;
  const gave = new Uint32Array(bins);
  const seen = new Uint32Array(bins);
  const binOf = binsOfDay(grid, BIN);
  const asks = (cell: number) => celsius[cell]! === celsius[cell]! && volts[cell]! < highest;
  for (let cell = 0; cell < grid.count; cell++) {
    if (!asks(cell) || celsius[cell]! < LIMITS.at(-1)!) continue;
    const bin = binOf[cell]!;
    seen[bin]!++;
    if (amps[cell]! > onAmps) gave[bin]!++;
  }
  // Hours at which it usually gives, by the warm days; where no day is warm, by any.
  for (let cell = 0; cell < grid.count; cell++) {
    const bin = binOf[cell]!;
    if (seen[bin]! > 0 || !asks(cell)) continue;
    if (amps[cell]! > onAmps) gave[bin] = seen[bin] = 1;
  }
  const usual = Array.from(gave, (count, bin) => seen[bin]! > 0 && count / seen[bin]! > 0.5);
  const hour = 3_600_000 / grid.step;
  let best: ColdIdle | null = null;
  for (const belowC of LIMITS) {
    let below = 0;
    let gaveBelow = 0;
    let above = 0;
    let gaveAbove = 0;
    for (let cell = 0; cell < grid.count; cell++) {
      if (!asks(cell) || !usual[binOf[cell]!]) continue;
      const on = amps[cell]! > onAmps ? 1 : 0;
      if (celsius[cell]! < belowC) {
        below++;
        gaveBelow += on;
      } else if (celsius[cell]! > belowC + 1) {
        above++;
        gaveAbove += on;
      }
    }
    if (below < LEAST_HOURS * hour || above < LEAST_ABOVE * hour) continue;
    const one = { belowC, hours: below / hour, gaveBelow: gaveBelow / below, gaveAbove: gaveAbove / above };
    if (one.gaveBelow < 0.1 && one.gaveAbove > 0.5 && (!best || one.hours > best.hours)) best = one;
  }
  return best;
}
