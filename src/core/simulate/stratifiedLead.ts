/**
 * A second lead-acid battery, unlike the first in everything that could be tuned to: acid that lags behind the charge (stratification),
 * acceptance limited by diffusion, so that the current at a held voltage falls as a plain exponential, and no memory of wells.
 *
 * - Open circuit: the acid's strength, which follows the charge with a lag of an hour or more.
 * - Charging: the current can be no more than what diffusion brings to the plates, in proportion to what is missing.
 * - Side reaction: Tafel current in voltage and temperature, as in every lead cell; it stores nothing.
 */

import { clamp, solveRising } from '../quantity/numbers';
import { leadCapacityShare } from '../system/capacityTemperature';
import type { Battery } from './battery';

export interface StratifiedLeadSpec {
  kind: 'stratified';
  /** Ah that the battery truly holds at 25 °C and the 20-hour rate. */
  capacityAh: number;
  cells: number;
  /** Multiplies the ohmic resistance; 1 is a good battery. */
  resistance: number;
  /** Multiplies the side reaction. */
  gassing: number;
  /** Hours in which the acid follows the charge. */
  acidHours: number;
  /** Share of what is missing that diffusion can bring in an hour at 25 °C. */
  acceptance: number;
  celsius: number;
}

/** V of a cell at rest, by the strength of its acid: from empty to full, as the published rest voltages have it. */
const EMPTY = 1.96;
const RISE = 0.165;
const OHM_AH = 0.18;
/** A per Ah of side reaction at 2.25 V per cell and 25 °C, and its growth per volt and per °C. */
const GAS_AMPS = 0.0005;
const GAS_PER_VOLT = 12;
const GAS_PER_C = 0.055;
/** V above rest at which charging takes three quarters of what diffusion brings. */
const OVER_VOLTS = 0.2;
/** What is missing is never quite nothing. */
const RESERVE = 0.004;

export function stratifiedLead(spec: StratifiedLeadSpec, startCharge: number): Battery {
  const { capacityAh, cells } = spec;
  const state = { celsius: spec.celsius };
  let charge = startCharge;
  let acid = startCharge;
  let rest = 0;
  let ohms = 0;
  let most = 0;
  let width = 0;
  let gasBase = 0;
  const settle = () => {
    const low = Math.max(0, 0.1 - charge);
    rest = EMPTY + RISE * clamp(0.7 * acid + 0.3 * charge, 0, 1) - 4 * low * low * 10;
    ohms = (OHM_AH * spec.resistance * (1 + 0.011 * Math.max(0, 25 - state.celsius))) / capacityAh;
    width = OVER_VOLTS * (0.7 + 0.3 * spec.resistance) * (1 + 0.004 * (25 - state.celsius));
    most =
      capacityAh *
      spec.acceptance *
      Math.exp(0.03 * (state.celsius - 25)) *
      Math.max(0, 1 + RESERVE - charge);
    gasBase =
      capacityAh * GAS_AMPS * spec.gassing * Math.exp(GAS_PER_C * (state.celsius - 25) - GAS_PER_VOLT * 2.25);
  };
  settle();
  const gasAmps = (volts: number) =>
    volts < 2.05 ? 0 : gasBase * Math.exp(GAS_PER_VOLT * Math.min(3.2, volts));
  /** Near its rest voltage a plate takes little; well above it, all that diffusion brings. */
  const storing = (over: number) => most * Math.tanh((over / width) ** 2);

  function ampsAt(volts: number): number {
    const cell = volts / cells;
    const over = cell - rest;
    return (over > 0 ? storing(over) : over / ohms) + gasAmps(cell);
  }

  return {
    state,
    charge: () => charge,
    ampsAt,
    voltsAt: (amps) => solveRising(ampsAt, amps, 1.2 * cells, 3.2 * cells),
    step(seconds, volts, amps, ambient) {
      const hours = seconds / 3600;
      const effective = capacityAh * Math.min(1, leadCapacityShare(state.celsius) * 1.02);
      charge = clamp(charge + ((amps - gasAmps(volts / cells)) * hours) / effective, -0.05, 1);
      acid += ((charge - acid) * hours) / spec.acidHours;
      const heat = amps * amps * ohms * cells;
      state.celsius +=
        (heat * seconds) / (capacityAh * cells * 720) + ((ambient - state.celsius) * hours) / 9;
      settle();
    },
  };
}
