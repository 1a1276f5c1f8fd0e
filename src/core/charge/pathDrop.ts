/** Resistance between a charger and the battery: what their two voltages differ by, against the charger's current. */

import { fitLine, quantile, robustDeviation, theilSen } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import type { ChargeView } from './view';

export interface PathDrop {
  /** Slope, ohms, and its standard error. */
  ohms: number;
  error: number;
  /** What is left at no current, V: the meters disagree by it. */
  offsetVolts: number;
  /** Current of its busiest hours, A, and what is lost there, V and W. */
  amps: number;
  lostVolts: number;
  lostWatts: number;
  /** Whether currents between nothing and the most were seen too, and not these two alone. */
  overRange: boolean;
}

const LEAST_CELLS = 40;
/** And in each part of the range of currents that counts. */
const LEAST_IN_BIN = 3;
/** Under this part of the charger's voltage no battery stands that is connected to it. */
const SWITCHED_OFF = 0.8;
/** V a 12 V block by which two meters may disagree; further apart they do not see the same battery. */
const METERS = 0.4;
/**
 * What a resistance loses follows the current closely. Where the points lie further off their line than this part of what it makes of the
 * busiest hours, and of so much at the least, V a 12 V block, the two meters did not see the same moments: one was written in means of hours.
 */
const BLURRED = { part: 0.25, least: 0.2 };
/** A current that moves by this part of its most from one cell to the next jumps. */
const JUMP = 0.2;
/** Pairs of points are looked at from no more than these. */
const MOST_POINTS = 300;

/** Where a battery is seldom low, bulk is an hour of the week; shorter than this a current says little of what charging loses. */
const BUSIEST = HOUR;

/** The current that a charger gave for an hour of the log at the least, A. */
function busiestHours(amps: readonly number[], step: number): number {
  return quantile(amps, Math.max(0, 1 - BUSIEST / step / amps.length));
}

/** Null where the battery's voltage was not logged by another, or the current hardly moved. */
export function pathDropOf(view: ChargeView, onAmps: number): PathDrop | null {
  const { batteryVolts, volts, amps, allowed } = view;
  if (!batteryVolts || view.ampsAreBattery) return null;
  const all: number[] = [];
  for (let cell = 0; cell < amps.length; cell++)
    // A battery that its BMS has switched off shows what it likes.
    if (
      batteryVolts[cell]! > SWITCHED_OFF * volts[cell]! &&
      amps[cell]! > -onAmps &&
      !(allowed && allowed[cell]! < 0.5)
    )
      all.push(cell);
  const top = quantile(
    all.map((cell) => amps[cell]!),
    0.98,
  );
  if (!(top > 5 * onAmps)) return null;
  // Where it jumps, two clocks that are seconds apart show another moment each.
  const jumps = (cell: number, to: number) => Math.abs(amps[to]! - amps[cell]!) > JUMP * top;
  const cells = all.filter((cell) => !jumps(cell, cell - 1) && !jumps(cell, cell + 1));
  if (cells.length < LEAST_CELLS) return null;
  // As many points from every part of the range of currents: hours at rest must not outweigh minutes of bulk.
  const bins = 12;
  const byBin = Array.from({ length: bins }, (): number[] => []);
  for (const cell of cells)
    byBin[Math.min(bins - 1, Math.max(0, Math.floor((bins * amps[cell]!) / top)))]!.push(cell);
  const each = Math.floor(MOST_POINTS / bins);
  const points = byBin.flatMap((list) => {
    const stride = Math.max(1, Math.floor(list.length / each));
    return list.filter((_, i) => i % stride === 0).slice(0, each);
  });
  const seen = byBin.filter((list) => list.length >= LEAST_IN_BIN).length;
  if (seen < 2) return null;
  const x = points.map((cell) => amps[cell]!);
  const y = points.map((cell) => volts[cell]! - batteryVolts[cell]!);
  const ohms = theilSen(x, y);
  const { slopeError } = fitLine(x, y);
  const offsetVolts = quantile(
    y.map((one, i) => one - ohms * x[i]!),
    0.5,
  );
  if (Math.abs(offsetVolts) > METERS * view.blocks) return null;
  const busiest = busiestHours(
    cells.map((cell) => amps[cell]!),
    view.grid.step,
  );
  const scatter = robustDeviation(y.map((one, i) => one - ohms * x[i]!));
  if (scatter > BLURRED.part * Math.max(Math.abs(ohms * busiest), BLURRED.least * view.blocks)) return null;
  return {
    ohms,
    error: slopeError,
    offsetVolts,
    amps: busiest,
    lostVolts: ohms * busiest,
    lostWatts: ohms * busiest * busiest,
    overRange: seen > 2,
  };
}
