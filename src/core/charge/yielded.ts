/** A source that stands back while the battery still takes a charging current from others. */

import { DAY } from '../quantity/span';
import { median } from '../quantity/numbers';
import { AT } from './states';
import type { ChargeView } from './view';

export interface Yielded {
  hours: number;
  /** Different days on which it stood back for half an hour or more. */
  days: number;
  /** What the battery took meanwhile, median, A. */
  batteryAmps: number;
}

const BACK = [AT.float, AT.storage, AT.sinking, AT.hold];

/** @param least battery current from which it is still charging, A. Null where the battery's current is not known beside the source's own */
export function yieldedOf(view: ChargeView, path: Uint8Array, onAmps: number, least: number): Yielded | null {
  const { batteryAmps, amps, grid } = view;
  if (!batteryAmps || view.ampsAreBattery) return null;
  const taken: number[] = [];
  const perDay = new Map<number, number>();
  for (let cell = 0; cell < grid.count; cell++) {
    if (!BACK.includes(path[cell]!) || amps[cell]! > onAmps || !(batteryAmps[cell]! > least)) continue;
    taken.push(batteryAmps[cell]!);
    const day = Math.floor((cell * grid.step) / DAY);
    perDay.set(day, (perDay.get(day) ?? 0) + grid.step);
  }
  return {
    hours: (taken.length * grid.step) / 3_600_000,
    days: [...perDay.values()].filter((ms) => ms >= 1_800_000).length,
    batteryAmps: median(taken),
  };
}
