/**
 * A lithium iron phosphate battery, cell by cell, behind a BMS: each cell has a capacity, a charge and a resistance of its own. The
 * BMS stops the charge when a cell is high or cold, the discharge when one is low, and bleeds cells that are above its balancing voltage.
 */

import { clamp } from '../quantity/numbers';
import type { Battery } from './battery';
import { hysteresisCells, type CellModel } from './lithiumCells';

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
  /** How its cells behave; a voltage that remembers the direction of the current where nothing is said. */
  model?: CellModel;
}

/** Of what goes in, so much can come out. */
const EFFICIENCY = 0.992;
/** Growth of the resistance per °C below 25. */
const COLD = 0.028;

export function lithiumBattery(spec: LithiumBatterySpec): Battery {
  const cells = spec.cells.map((one) => ({ ...one, lag: 0 }));
  const state = { celsius: spec.celsius, chargeAllowed: true, dischargeAllowed: true };
  const { bms, model = hysteresisCells } = spec;
  const least = Math.min(...spec.cells.map((one) => one.capacityAh));
  let sources: number[] = [];
  let ohms: number[] = [];
  let rest = 0;
  let total = 0;
  const settle = () => {
    const cold = Math.exp(COLD * clamp(25 - state.celsius, 0, 60));
    sources = cells.map((cell) => model.source(cell.charge, cell.lag));
    ohms = cells.map((cell) => (model.ohmAh * cold * cell.resistance) / cell.capacityAh);
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
        cell.lag = model.follow(cell.lag, moved, hours);
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
