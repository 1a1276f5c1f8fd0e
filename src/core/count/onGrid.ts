/** A counter's log in even cells, made once: meters, the true charge and the look at the voltage all ask for it. */

import { type Grid, judgingGrid, medianStep, toGrid } from '../log/grid';
import type { CounterLog } from './counterLog';

/** Means of the cells: A, V, %. Shared: nobody changes them. */
export interface OnGrid {
  grid: Grid;
  amps: Float32Array;
  volts: Float32Array | null;
  reading: Float32Array | null;
}

const made = new WeakMap<CounterLog, OnGrid>();

export function onGrid(log: CounterLog): OnGrid {
  const known = made.get(log);
  if (known) return known;
  const { time, amps, volts, reading } = log;
  const span = { from: time[0]!, to: time[time.length - 1]! };
  const grid = judgingGrid(span, medianStep(time), time);
  const of = (values: Float32Array | null) => values && toGrid(time, values, grid);
  const one = { grid, amps: toGrid(time, amps, grid), volts: of(volts), reading: of(reading) };
  made.set(log, one);
  return one;
}
