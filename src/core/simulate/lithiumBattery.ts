/**
 * A lithium iron phosphate battery, cell by cell, behind a BMS: each cell has a capacity, a charge and a resistance of its own, an
 * open-circuit voltage that is flat in the middle and steep at the ends, and a hysteresis between charging and discharging. The BMS
 * stops the charge when a cell is high or cold, the discharge when one is low, and bleeds cells that are above its balancing voltage.
 */

import { clamp, interpolate } from '../quantity/numbers';
import type { Battery } from './battery';

export interface LithiumCell {
  capacityAh: number;
  /** 0 to 1 at the start. */
  charge: number;
  /** Multiplies the resistance; 1 is a good cell. */
  resistance: number;
}

export interface Bms {
  cellHighV: number;
  cellLowV: number;
  cellHighReleaseV: number;
  cellLowReleaseV: number;
  /** Cells above this are bled, unless the battery is drawn upon. */
  balanceV: number;
  balanceA: number;
  chargeAboveC: number;
}

export interface LithiumBatterySpec {
  kind: 'lithium';
  cells: readonly LithiumCell[];
  bms: Bms;
  celsius: number;
  /** Hours in which its temperature follows the air's. */
  warmingHours: number;
}

/** Rest voltage of a cell against its charge, 25 °C: common practice for a block of four, divided by four, with steep ends. */
const REST: readonly (readonly [number, number])[] = [
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
/** Ohm·Ah of a good cell at 25 °C, polarisation within a step included, and its growth per °C below. */
const OHM_AH = 0.13;
const COLD = 0.028;
/** Of what goes in, so much can come out. */
const EFFICIENCY = 0.992;

export function lithiumBattery(spec: LithiumBatterySpec): Battery {
  const cells = spec.cells.map((one) => ({ ...one, lag: 0 }));
  const state = { celsius: spec.celsius, chargeAllowed: true, dischargeAllowed: true };
  const { bms } = spec;
  const least = Math.min(...spec.cells.map((one) => one.capacityAh));
  let sources: number[] = [];
  let ohms: number[] = [];
  let rest = 0;
  let total = 0;
  const settle = () => {
    const cold = Math.exp(COLD * clamp(25 - state.celsius, 0, 60));
    sources = cells.map((cell) => interpolate(REST, cell.charge) + HYSTERESIS * cell.lag);
    ohms = cells.map((cell) => (OHM_AH * cold * cell.resistance) / cell.capacityAh);
    rest = sources.reduce((a, b) => a + b, 0);
    total = ohms.reduce((a, b) => a + b, 0);
  };
  settle();

  /** What the switches of the BMS let through. */
  function ampsAt(volts: number): number {
    const amps = (volts - rest) / total;
    if (amps > 0 && !state.chargeAllowed) return 0;
    if (amps < 0 && !state.dischargeAllowed) return 0;
    return amps;
  }

  function voltsAt(amps: number): number {
    if (amps < 0 && !state.dischargeAllowed) return 0;
    return Math.max(0, rest + amps * total);
  }

  const cellVolts = (amps: number): number[] => sources.map((source, i) => source + amps * ohms[i]!);

  function watch(volts: readonly number[]): void {
    const highest = Math.max(...volts);
    const lowest = Math.min(...volts);
    const warm = state.celsius >= bms.chargeAboveC;
    if (highest > bms.cellHighV || !warm) state.chargeAllowed = false;
    else if (highest < bms.cellHighReleaseV) state.chargeAllowed = true;
    if (lowest < bms.cellLowV) state.dischargeAllowed = false;
    else if (lowest > bms.cellLowReleaseV) state.dischargeAllowed = true;
  }

  return {
    state,
    charge: () => Math.min(...cells.map((cell) => (cell.charge * cell.capacityAh) / least)),
    ampsAt,
    voltsAt,
    cellVolts,
    packVolts: (amps) => rest + amps * total,
    step(seconds, _, amps, ambient) {
      const hours = seconds / 3600;
      const volts = cellVolts(amps);
      cells.forEach((cell, i) => {
        const bled = amps >= 0 && volts[i]! > bms.balanceV ? bms.balanceA : 0;
        const moved = (((amps > 0 ? EFFICIENCY : 1) * amps - bled) * hours) / cell.capacityAh;
        cell.charge = clamp(cell.charge + moved, -0.015, 1.02);
        cell.lag = clamp(cell.lag + moved / TURN, -1, 1);
      });
      watch(volts);
      const heat = amps * amps * total;
      state.celsius +=
        (heat * seconds) / (least * cells.length * 40) +
        ((ambient - state.celsius) * hours) / spec.warmingHours;
      settle();
    },
  };
}

/** Cells that are alike but for a spread of a few parts in a thousand. @param spread gives a number around 0 for each */
export const evenCells = (
  count: number,
  capacityAh: number,
  charge: number,
  spread: (cell: number) => number = () => 0,
): LithiumCell[] =>
  Array.from({ length: count }, (_, i) => ({
    capacityAh: capacityAh * (1 + spread(i)),
    charge,
    resistance: 1 + 5 * spread(i),
  }));
