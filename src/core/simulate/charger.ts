/** A three-stage charger: bulk, absorption, float, with a timer, a tail or both, temperature compensation and rebulk. */

import { solveRising } from '../quantity/numbers';
import type { ReportedStage } from '../log/channels';

export interface ChargerSpec {
  id: string;
  ratedA: number;
  /** V at 25 °C for the whole bank. */
  absorptionV: number;
  floatV: number;
  /** V per °C for the whole bank, negative for lead; 0 is off. */
  compensationVPerC: number;
  /** Absorption ends after this long at the voltage. */
  absorptionMinutes: number;
  /** And at once when the charger's own current falls below this. */
  tailA?: number | undefined;
  rebulkV: number;
  /** Ohms between the charger's terminals and the battery. */
  pathOhms: number;
}

export interface ChargerState {
  stage: ReportedStage;
  absorbedSeconds: number;
  lowSeconds: number;
  awaySeconds: number;
}

export interface Bus {
  /** Load current, A. */
  loadAmps: number;
  /** A into the battery at a battery voltage. */
  ampsAt(volts: number): number;
  voltsAt(amps: number): number;
}

export interface ChargerOutput {
  batteryVolts: number;
  terminalVolts: number;
  amps: number;
  regulating: boolean;
}

export const restingCharger = (): ChargerState => ({
  stage: 'off',
  absorbedSeconds: 0,
  lowSeconds: 0,
  awaySeconds: 1e9,
});

/** Solves the bus for one moment: the charger gives what holds its target, or all it has. */
export function drive(spec: ChargerSpec, target: number, capableAmps: number, bus: Bus): ChargerOutput {
  const idle = bus.voltsAt(-bus.loadAmps);
  if (capableAmps <= 0 || target <= idle)
    return { batteryVolts: idle, terminalVolts: idle, amps: 0, regulating: false };
  const wanted = (volts: number) => bus.ampsAt(volts) + bus.loadAmps;
  const low = solveRising((volts) => volts + wanted(volts) * spec.pathOhms, target, idle, target);
  const holding = wanted(low);
  if (holding <= capableAmps)
    return {
      batteryVolts: low,
      terminalVolts: low + holding * spec.pathOhms,
      amps: holding,
      regulating: true,
    };
  const batteryVolts = bus.voltsAt(capableAmps - bus.loadAmps);
  return {
    batteryVolts,
    terminalVolts: batteryVolts + capableAmps * spec.pathOhms,
    amps: capableAmps,
    regulating: false,
  };
}

/**
 * One step of the charger.
 * @param capableAmps what sun, mains or engine let it give now; 0 when the source is away. @param celsius its sensor.
 */
export function runCharger(
  spec: ChargerSpec,
  state: ChargerState,
  seconds: number,
  capableAmps: number,
  celsius: number,
  bus: Bus,
): ChargerOutput {
  const shift = spec.compensationVPerC * (celsius - 25);
  if (capableAmps < 0.004 * spec.ratedA) {
    state.awaySeconds += seconds;
    state.stage = 'off';
    return drive(spec, 0, 0, bus);
  }
  if (state.stage === 'off') {
    // A source that was away for long starts a new charge; a short dip goes on where it was.
    if (state.awaySeconds > 3600) state.absorbedSeconds = 0;
    state.stage = state.absorbedSeconds >= spec.absorptionMinutes * 60 ? 'float' : 'bulk';
  }
  state.awaySeconds = 0;
  const target = (state.stage === 'float' ? spec.floatV : spec.absorptionV) + shift;
  const output = drive(spec, target, capableAmps, bus);
  if (state.stage === 'bulk' && output.regulating) state.stage = 'absorption';
  else if (state.stage === 'absorption') {
    if (output.regulating) state.absorbedSeconds += seconds;
    const timedOut = state.absorbedSeconds >= spec.absorptionMinutes * 60;
    const tailed = spec.tailA !== undefined && output.regulating && output.amps < spec.tailA;
    if (timedOut || (tailed && state.absorbedSeconds > 120)) {
      state.stage = 'float';
      state.absorbedSeconds = spec.absorptionMinutes * 60;
    }
  } else if (state.stage === 'float') {
    state.lowSeconds = output.terminalVolts < spec.rebulkV + shift ? state.lowSeconds + seconds : 0;
    if (state.lowSeconds > 600) {
      state.stage = 'bulk';
      state.absorbedSeconds = 0;
      state.lowSeconds = 0;
    }
  }
  return output;
}
