/**
 * A lead-acid battery: two wells of charge, a resistance that depends on the state of charge, and a gassing side reaction.
 * Charge acceptance, the tail of absorption and the efficiency are not drawn: they come out of these three.
 *
 * - Open circuit: rises with the filling of the available well, a little with temperature.
 * - Charging: the resistance grows without bound as the available well fills (form after Shepherd's equation), and the reaction
 *   runs faster than in proportion to its overvoltage, so that a float voltage finishes a charge far more slowly.
 * - Side reaction: Tafel current in voltage and temperature; it passes the terminals but stores nothing.
 * - Wells: the available well exchanges charge with the bound one, so that a fast charge looks full early and a rested battery
 *   recovers.
 */

import { clamp, solveRising } from '../quantity/numbers';
import { leadCapacityShare } from '../system/capacityTemperature';
import type { Battery } from './battery';

export interface LeadBatterySpec {
  /** Ah that the battery truly holds at 25 °C and the 20-hour rate. */
  capacityAh: number;
  cells: number;
  /** Multiplies the ohmic resistance; 1 is a good battery. */
  resistance: number;
  /** Multiplies the side reaction; 1 is sealed, about 2 flooded and ageing. */
  gassing: number;
  /** Multiplies the resistance of the charging reaction; 1 where nothing is said. */
  chargeResistance?: number;
  /** Share of the charge in the available well. */
  availableShare: number;
  /** Hours in which the wells level out. */
  levelHours: number;
}

export interface LeadBatteryState {
  /** Filling of the available and of the bound well, 0 to 1. */
  available: number;
  bound: number;
  celsius: number;
}

export const usualLeadBattery = (capacityAh: number, cells: number): LeadBatterySpec => ({
  capacityAh,
  cells,
  resistance: 1,
  gassing: 1,
  availableShare: 0.4,
  levelHours: 0.8,
});

/** Ohm·Ah per cell of a good battery on discharge, and of the charging reaction at small overvoltage. */
const OHM_AH_PER_CELL = 0.16;
const CHARGE_OHM_AH_PER_CELL = 0.62;
/** V of overvoltage at which the charging reaction begins to outrun proportion. */
const REACTION_VOLTS = 0.11;
const CHARGE_SHAPE = 0.9;
const FULL = 1.001;
/** A per Ah of side reaction at 2.23 V per cell and 25 °C, and its growth per volt and per °C. */
const GAS_AMPS = 0.0003;
const GAS_PER_VOLT = 11;
const GAS_PER_C = 0.06;

export function leadBattery(
  spec: LeadBatterySpec,
  start: LeadBatteryState,
): Battery & { state: LeadBatteryState; gassedAh(): number } {
  const state = { ...start };
  let gassed = 0;
  const { capacityAh, cells, availableShare: share, chargeResistance = 1 } = spec;
  const exchange = (share * (1 - share)) / spec.levelHours;

  const openCircuit = () => 1.98 + 0.128 * clamp(state.available, -0.2, 1) + 0.0003 * (state.celsius - 25);
  const emptying = () => 0.25 * Math.max(0, 0.12 - state.available) ** 1.2;
  const coldOhms = () => 1 + 0.012 * Math.max(0, 25 - state.celsius);
  const chargeOhms = () => {
    const filled = clamp(state.available, 0, 1);
    const polarised = (CHARGE_SHAPE * filled) / (FULL - filled);
    return (
      ((chargeResistance * CHARGE_OHM_AH_PER_CELL * coldOhms()) / capacityAh) *
      (0.6 * spec.resistance + polarised)
    );
  };
  const dischargeOhms = () =>
    ((OHM_AH_PER_CELL * coldOhms()) / capacityAh) *
    (spec.resistance + 0.06 / Math.max(0.02, state.available));
  // The state stands still within a step: what depends on it alone is worked out once.
  let rest = 0;
  let ohmsIn = 0;
  let ohmsOut = 0;
  let gasBase = 0;
  const settle = () => {
    rest = openCircuit() - emptying();
    ohmsIn = chargeOhms();
    ohmsOut = dischargeOhms();
    gasBase =
      capacityAh * GAS_AMPS * spec.gassing * Math.exp(GAS_PER_C * (state.celsius - 25) - GAS_PER_VOLT * 2.23);
  };
  settle();
  const gasAmps = (cellVolts: number) => (cellVolts < 2 ? 0 : gasBase * Math.exp(GAS_PER_VOLT * cellVolts));

  function ampsAt(volts: number): number {
    const cell = volts / cells;
    const over = cell - rest;
    if (over <= 0) return over / ohmsOut + gasAmps(cell);
    return (REACTION_VOLTS * Math.sinh(Math.min(12, over / REACTION_VOLTS))) / ohmsIn + gasAmps(cell);
  }

  const voltsAt = (amps: number): number => solveRising(ampsAt, amps, 1.2 * cells, 3.2 * cells);

  return {
    state,
    charge: () => share * state.available + (1 - share) * state.bound,
    /** What has gone into the side reaction while charging, Ah. */
    gassedAh: () => gassed,
    ampsAt,
    voltsAt,
    step(seconds, volts, amps, ambient) {
      const hours = seconds / 3600;
      const effective = capacityAh * Math.min(1, leadCapacityShare(state.celsius) * 1.02);
      const gas = gasAmps(volts / cells);
      if (amps > 0) gassed += Math.min(gas, amps) * hours;
      const stored = (amps - gas) * hours;
      const flow = exchange * (state.available - state.bound) * hours;
      state.available = clamp(state.available + (stored / effective - flow) / share, -0.1, 1);
      state.bound = clamp(state.bound + flow / (1 - share), 0, 1);
      const heat = Math.abs(amps) * Math.abs(volts - openCircuit() * cells);
      const heatCapacity = capacityAh * cells * 12;
      state.celsius += (heat * seconds) / (heatCapacity * 60) + ((ambient - state.celsius) * hours) / 8;
      settle();
    },
  };
}
