/**
 * The source's own limit: currents at which it stands while the voltage goes through a whole range. At such a current it gives all it
 * has, however flat the voltage may lie for an hour; a source that gives steadily less is holding a voltage. A charger that is hot,
 * derated or on a weak supply has more than one.
 */

import { clamp, fitLine, quantile } from '../quantity/numbers';
import { at25, type ChargeView } from './view';

export interface Limit {
  amps: number;
  /** Half the band of currents that count as standing at it, A. */
  width: number;
}

/** A current stands where it moves by less than this over the cells about it, in parts of the current. */
const STANDING = 0.015;
/** V a 12 V block that the voltage must go through at one current. */
const THROUGH = 0.25;
/** A limit is seen for so long at least, minutes. */
const LEAST_MINUTES = 20;

/** Times as often as the currents a little way off. */
const STANDS_OUT = 1.8;
/** Where the sun is capped, in parts of the most that it gave. */
const CAPPED = 0.93;
/** A charger that gives less than this part of its best is holding a voltage for its loads, however steady. */
const WEAKEST = 0.28;

/** The limits seen in a view, greatest first. @param sun a source that has no limit of its own but where its controller caps it: at the top */
export function findLimits(view: ChargeView, onAmps: number, sun = false): Limit[] {
  const { amps, volts, grid } = view;
  const standing: number[] = [];
  for (let cell = 2; cell < grid.count - 2; cell++) {
    const now = amps[cell]!;
    if (!(now > onAmps) || volts[cell]! !== volts[cell]!) continue;
    const move = Math.max(Math.abs(amps[cell - 2]! - now), Math.abs(amps[cell + 2]! - now));
    if (move <= Math.max(3 * view.ampNoise, STANDING * now)) standing.push(cell);
  }
  const least = Math.max(4, (LEAST_MINUTES * 60_000) / grid.step);
  if (standing.length < least) return [];
  const top = quantile(
    standing.map((cell) => amps[cell]!),
    0.98,
  );
  const weak = (sun ? CAPPED : WEAKEST) * top;
  const bin = Math.max(1.5 * view.ampNoise, 0.012 * top);
  const counts = new Map<number, number[]>();
  for (const cell of standing) {
    const key = Math.round(amps[cell]! / bin);
    const list = counts.get(key);
    if (list) list.push(cell);
    else counts.set(key, [cell]);
  }
  const limits: Limit[] = [];
  const size = (key: number) => counts.get(key)?.length ?? 0;
  for (const key of [...counts.keys()].sort((a, b) => b - a)) {
    const height = size(key - 1) + size(key) + size(key + 1);
    if (key * bin < weak || height < least || size(key) < size(key - 1) || size(key) < size(key + 1))
      continue;
    // A slow ramp goes through every current; a limit stands out from those beside it.
    const beside = Math.max(
      size(key - 5) + size(key - 4) + size(key - 3),
      sun ? 0 : size(key + 3) + size(key + 4) + size(key + 5),
    );
    if (height < STANDS_OUT * beside) continue;
    const members = [key - 1, key, key + 1].flatMap((one) => counts.get(one) ?? []);
    if (goesThrough(withoutHeat(view, members), THROUGH * view.blocks))
      limits.push({
        amps: quantile(
          members.map((cell) => amps[cell]!),
          0.5,
        ),
        width: 1.6 * bin,
      });
  }
  return limits.filter((one) => one.amps >= WEAKEST * limits[0]!.amps);
}

/** Steepest compensation that chargers are set to, V per °C a 12 V block. */
const STEEPEST = 0.06;

/** Voltages of cells at one temperature, should a held voltage follow it: that goes through a range of its own. */
function withoutHeat(view: ChargeView, cells: readonly number[]): number[] {
  const { volts, celsius, blocks } = view;
  const known = celsius ? cells.filter((cell) => celsius[cell]! === celsius[cell]!) : [];
  const line = fitLine(
    known.map((cell) => celsius![cell]!),
    known.map((cell) => volts[cell]!),
  );
  const voltsPerC = clamp(line.slope || 0, -STEEPEST * blocks, 0);
  return cells.map((cell) => at25(view, cell, voltsPerC));
}

/** Whether voltages fill a range, not only its ends: two held voltages at one current are no limit. */
function goesThrough(volts: number[], range: number): boolean {
  const low = quantile(volts, 0.02);
  const high = quantile(volts, 0.98);
  if (high - low < range) return false;
  const bins = new Uint32Array(10);
  for (const one of volts) bins[Math.min(9, Math.max(0, Math.floor((10 * (one - low)) / (high - low))))]!++;
  return bins.filter((count) => count >= 0.01 * volts.length).length >= 7;
}
