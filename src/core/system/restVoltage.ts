/** Open-circuit voltage of a rested battery against its state of charge. */

import { interpolate } from '../quantity/numbers';
import { isLead } from './chemistry';
import type { Chemistry } from './schema';

type Table = ReadonlyArray<readonly [number, number]>;

/**
 * 12 V lead-acid, rested, about 25 °C: [V per 12 V block, %]. Battery Council International, from memory.
 */
export const LEAD_REST_VOLTS: Table = [
  [11.89, 0],
  [12.06, 25],
  [12.24, 50],
  [12.45, 75],
  [12.65, 100],
];

/** V a 12 V block that a small load of hours costs, for a current of the whole capacity (common practice, no source). */
export const LOAD_DROPS = { lead: 5, lithium: 0.8 };

/** 12 V lithium iron phosphate block (4 cells), rested: [V, %]. Common practice, no source; it decides only near the ends. */
export const LITHIUM_REST_VOLTS: Table = [
  [10.25, 0],
  [12.0, 10],
  [12.5, 14],
  [12.85, 18.5],
  [13.0, 30],
  [13.1, 45],
  [13.2, 70],
  [13.3, 90],
  [13.6, 100],
];

const tableOf = (chemistry: Chemistry): Table => (isLead(chemistry) ? LEAD_REST_VOLTS : LITHIUM_REST_VOLTS);

/** State of charge, %, of a rested battery. @param voltsPerBlock V per 12 V block. The ends are held. */
export const restPercent = (chemistry: Chemistry, voltsPerBlock: number): number =>
  interpolate(tableOf(chemistry), voltsPerBlock);

/** V per 12 V block of a rested battery at a state of charge, %. */
export const restVolts = (chemistry: Chemistry, percent: number): number =>
  interpolate(
    tableOf(chemistry).map(([volts, at]) => [at, volts] as const),
    percent,
  );
