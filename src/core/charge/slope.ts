/** How held voltages follow the battery's temperature: the compensation that the charger really does. */

import { fitLine, mean, quantile } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { AT } from './states';
import type { ChargeView } from './view';

export interface Slope {
  /** mV per °C per cell, and its standard error. */
  mvPerCell: number;
  error: number;
  /** Temperatures over which it was seen, °C, and in how many hours. */
  from: number;
  to: number;
  hours: number;
}

const LEAST_HOURS = 5;
/** V a 12 V block by which a charger stands above a battery that takes nothing from it. */
const ABOVE = 0.03;
/** A battery that gives this part of its capacity, 1/h, stands where its charge puts it: no charger holds it. */
const GIVES = 0.005;
/** Over a whole float it gives no more than this part of it, 1/h: seen through the battery alone, what carries its loads is nobody's float. */
const AT_REST = 0.001;
/** On float lithium takes nothing: a charger that gives no more than this part of its capacity, 1/h, does not hold it, it stands above. */
export const HOLDS = 0.002;

/**
 * From the hours of absorption and of float in which the battery gives nothing, each about its own mean. Null for too few of them.
 * @param path state of every cell
 */
export function slopeOf(
  view: ChargeView,
  path: Uint8Array,
  {
    chemistry,
    cellsInSeries: cells,
    capacityAh,
  }: Pick<KnownBank, 'chemistry' | 'cellsInSeries' | 'capacityAh'>,
): Slope | null {
  const { amps, ampsAreBattery, allowed, celsius, volts, grid, batteryVolts, batteryAmps, batteryNoise } =
    view;
  // A battery that its BMS shuts off while it is full stands by itself, and a bus that stands as high with it: nobody holds that.
  const isLetIn = (cell: number) =>
    !(allowed && allowed[cell]! < 0.5) ||
    (batteryVolts !== null && volts[cell]! - batteryVolts[cell]! > ABOVE * view.blocks);
  if (!celsius) return null;
  const gives = -Math.max(3 * batteryNoise, GIVES * capacityAh);
  const x: number[] = [];
  const y: number[] = [];
  const temperatures: number[] = [];
  const perHour = Math.max(1, Math.round(HOUR / grid.step));
  const letGo = !isLead(chemistry) && ampsAreBattery ? drawnOn(amps, path, AT_REST * capacityAh) : null;
  for (const state of [AT.absorption, AT.float]) {
    const mayRest = state === AT.float && !isLead(chemistry) && !ampsAreBattery;
    const heat: number[] = [];
    const held: number[] = [];
    for (let from = 0; from + perHour <= grid.count; from += perHour) {
      const hour: number[] = [];
      for (let cell = from; cell < from + perHour; cell++)
        if (path[cell] === state && celsius[cell]! === celsius[cell]! && isLetIn(cell) && !letGo?.[cell])
          hour.push(cell);
      if (hour.length < 0.5 * perHour) continue;
      if (batteryAmps && mean(hour.map((cell) => batteryAmps[cell]!)) < gives) continue;
      if (mayRest && mean(hour.map((cell) => amps[cell]!)) <= HOLDS * capacityAh) continue;
      heat.push(mean(hour.map((cell) => celsius[cell]!)));
      held.push(mean(hour.map((cell) => volts[cell]!)));
    }
    if (heat.length < 3) continue;
    const middleC = mean(heat);
    const middleV = mean(held);
    heat.forEach((one, i) => {
      x.push(one - middleC);
      y.push((1000 * (held[i]! - middleV)) / cells);
      temperatures.push(one);
    });
  }
  if (x.length < LEAST_HOURS) return null;
  const { slope, slopeError } = fitLine(x, y);
  if (slope !== slope) return null;
  const from = quantile(temperatures, 0.02);
  const to = quantile(temperatures, 0.98);
  return {
    mvPerCell: slope,
    // Hours that follow each other are not as many witnesses; and what moves within a meter's quantum is not seen to move.
    error: Math.max(2 * slopeError, 0.1, (1000 * view.voltQuantum) / (4 * cells * (to - from))),
    from,
    to,
    hours: x.length,
  };
}

/** Cells of the floats over which the battery gives more than so much in the mean, A. */
function drawnOn(amps: Float32Array, path: Uint8Array, least: number): Uint8Array {
  const found = new Uint8Array(path.length);
  for (let from = 0; from < path.length; from++) {
    if (path[from] !== AT.float) continue;
    let to = from;
    while (to < path.length && path[to] === AT.float) to++;
    if (mean(amps.subarray(from, to)) < -least) found.fill(1, from, to);
    from = to;
  }
  return found;
}
