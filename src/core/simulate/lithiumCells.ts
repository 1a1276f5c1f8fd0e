/** Two ways in which a lithium iron phosphate cell can behave, so that nothing is tuned to one: both flat in the middle and steep at the ends. */

import { clamp, interpolate } from '../quantity/numbers';

export interface CellModel {
  /** Ohm·Ah of a good cell at 25 °C for what happens within a step. */
  ohmAh: number;
  /** V of a cell without the drop of the moment. @param charge 0 to 1 @param lag what it remembers of the past */
  source(charge: number, lag: number): number;
  /** What it remembers a step later. @param moved share of the capacity that went in, − out */
  follow(lag: number, moved: number, hours: number): number;
}

type Table = readonly (readonly [number, number])[];

/** Rest voltage of a cell against its charge, 25 °C: common practice for a block of four, divided by four, with steep ends. */
const PRACTICE: Table = [
  [-0.02, 2.2],
  [0, 2.56],
  [0.03, 2.78],
  [0.06, 2.92],
  [0.1, 3.0],
  [0.14, 3.125],
  [0.18, 3.2125],
  [0.3, 3.25],
  [0.45, 3.275],
  [0.7, 3.3],
  [0.9, 3.325],
  [0.97, 3.343],
  [0.99, 3.37],
  [1, 3.45],
  [1.01, 3.7],
  [1.02, 4.1],
];
/** V between the middle of the loop and either side. */
const HYSTERESIS = 0.008;
/** Share of the capacity that turns the hysteresis round. */
const TURN = 0.02;

/** A voltage that remembers the direction of the current: a loop between charging and discharging. */
export const hysteresisCells: CellModel = {
  ohmAh: 0.13,
  source: (charge, lag) => interpolate(PRACTICE, charge) + HYSTERESIS * lag,
  follow: (lag, moved) => clamp(lag + moved / TURN, -1, 1),
};

/** Another curve, as a cell shows it that has rested for a day: two steps in the flat part, rounder shoulders. From memory of typical cells. */
const TWO_STEPS: Table = [
  [-0.02, 2.0],
  [0, 2.5],
  [0.02, 2.8],
  [0.05, 3.05],
  [0.1, 3.19],
  [0.2, 3.25],
  [0.32, 3.285],
  [0.6, 3.292],
  [0.66, 3.325],
  [0.95, 3.334],
  [0.98, 3.352],
  [0.993, 3.4],
  [1, 3.5],
  [1.01, 3.75],
  [1.02, 4.1],
];
/** V·h: slow polarisation for a current that would fill the cell in an hour, and the hours in which it comes and goes. */
const SLOW = 0.09;
const SLOW_HOURS = 0.35;

/** A voltage that creeps: half of the resistance answers at once, half only after minutes. */
export const creepingCells: CellModel = {
  ohmAh: 0.07,
  source: (charge, lag) => interpolate(TWO_STEPS, charge) + lag,
  follow: (lag, moved, hours) =>
    lag + (SLOW * (hours > 0 ? moved / hours : 0) - lag) * (1 - Math.exp(-hours / SLOW_HOURS)),
};
