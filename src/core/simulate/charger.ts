/** A three-stage charger: bulk, absorption, float, with a timer, a tail or both, temperature compensation, rebulk and equalisation. */

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
  /** Absorption ends after this long at the voltage; Infinity for a source that knows one voltage only. */
  absorptionMinutes: number;
  /** The clock of absorption goes on through clouds and loads; else it counts only while the voltage is held. */
  countsOn?: boolean;
  /** It holds the voltage at the battery, not at its own terminals. */
  remoteSense?: boolean;
  /** It gives nothing while its sensor is colder, °C. */
  blockBelowC?: number;
  /** And at once when the charger's own current falls below this. */
  tailA?: number | undefined;
  rebulkV: number;
  /** Ohms between the charger's terminals and the battery. */
  pathOhms: number;
  /** An equalisation is due at these moments, epoch ms, and begins with the next float: so long from its begin, whatever was reached. */
  equalise?: { volts: number; minutes: number; dueAt: readonly number[] };
}

export interface ChargerState {
  stage: ReportedStage;
  absorbedSeconds: number;
  lowSeconds: number;
  awaySeconds: number;
  /** How many of the due equalisations have been begun, and for how long the present one has run. */
  equalised: number;
  equalisingSeconds: number;
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
  equalised: 0,
  equalisingSeconds: 0,
});

/** Solves the bus for one moment: the charger gives what holds its target, or all it has. */
export function drive(spec: ChargerSpec, target: number, capableAmps: number, bus: Bus): ChargerOutput {
  const idle = bus.voltsAt(-bus.loadAmps);
  if (capableAmps <= 0 || target <= idle)
    return { batteryVolts: idle, terminalVolts: idle, amps: 0, regulating: false };
  const wanted = (volts: number) => bus.ampsAt(volts) + bus.loadAmps;
  const sensed = spec.remoteSense ? 0 : spec.pathOhms;
  const low = solveRising((volts) => volts + wanted(volts) * sensed, target, idle, target);
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

/** What a charger would hold now, and with how much: 0 V when its source is away. */
export interface Aim {
  spec: ChargerSpec;
  target: number;
  capableAmps: number;
}

/** Several chargers on one bus: each gives what holds its own terminals at its target, or all it has, or nothing. */
export function driveTogether(aims: readonly Aim[], bus: Bus): ChargerOutput[] {
  if (aims.length === 1) return [drive(aims[0]!.spec, aims[0]!.target, aims[0]!.capableAmps, bus)];
  const idle = bus.voltsAt(-bus.loadAmps);
  const given = ({ spec, target, capableAmps }: Aim, volts: number) =>
    Math.min(
      capableAmps,
      Math.max(0, (target - volts) / (spec.remoteSense ? 1e-4 : Math.max(1e-4, spec.pathOhms))),
    );
  const excess = (volts: number) =>
    bus.ampsAt(volts) + bus.loadAmps - aims.reduce((sum, aim) => sum + given(aim, volts), 0);
  const highest = Math.max(idle, ...aims.map((aim) => aim.target));
  const volts = solveRising(excess, 0, idle, highest);
  return aims.map((aim) => {
    const amps = given(aim, volts);
    return {
      batteryVolts: volts,
      terminalVolts: volts + amps * aim.spec.pathOhms,
      amps,
      regulating: amps > 0 && amps < aim.capableAmps * (1 - 1e-6),
    };
  });
}

/**
 * What the charger aims at in this step, and its stage with it.
 * @param capableAmps what sun, mains or engine let it give now; 0 when the source is away. @param celsius its sensor. @param ms now
 */
export function aim(
  spec: ChargerSpec,
  state: ChargerState,
  seconds: number,
  capableAmps: number,
  celsius: number,
  ms = 0,
): Aim {
  const blocked = spec.blockBelowC !== undefined && celsius < spec.blockBelowC;
  if (capableAmps < 0.004 * spec.ratedA || blocked) {
    state.awaySeconds += seconds;
    state.stage = 'off';
    return { spec, target: 0, capableAmps: 0 };
  }
  if (state.stage === 'off') {
    // A source that was away for long starts a new charge; a short dip goes on where it was.
    if (state.awaySeconds > 3600) state.absorbedSeconds = 0;
    state.stage = state.absorbedSeconds >= spec.absorptionMinutes * 60 ? 'float' : 'bulk';
  }
  state.awaySeconds = 0;
  const due = spec.equalise?.dueAt[state.equalised];
  if (state.stage === 'float' && due !== undefined && ms >= due) {
    state.stage = 'equalise';
    state.equalised++;
    state.equalisingSeconds = 0;
  }
  const volts =
    state.stage === 'equalise'
      ? spec.equalise!.volts
      : state.stage === 'float'
        ? spec.floatV
        : spec.absorptionV;
  return { spec, target: volts + spec.compensationVPerC * (celsius - 25), capableAmps };
}

/** What the charger makes of how the step went. */
export function settle(
  { spec, target, capableAmps }: Aim,
  state: ChargerState,
  seconds: number,
  output: ChargerOutput,
): void {
  if (capableAmps === 0) return;
  // It only knows its own terminals: a voltage that another source holds up looks reached.
  const reached = output.regulating || output.terminalVolts >= target;
  if (state.stage === 'bulk' && reached) state.stage = 'absorption';
  else if (state.stage === 'absorption') {
    if (reached || spec.countsOn) state.absorbedSeconds += seconds;
    const timedOut = state.absorbedSeconds >= spec.absorptionMinutes * 60;
    const tailed = spec.tailA !== undefined && reached && output.amps < spec.tailA;
    if (timedOut || (tailed && state.absorbedSeconds > 120)) {
      state.stage = 'float';
      state.absorbedSeconds = spec.absorptionMinutes * 60;
    }
  } else if (state.stage === 'equalise') {
    state.equalisingSeconds += seconds;
    if (state.equalisingSeconds >= spec.equalise!.minutes * 60) state.stage = 'float';
  } else if (state.stage === 'float') {
    const rebulk = spec.rebulkV + (target - spec.floatV);
    state.lowSeconds = output.terminalVolts < rebulk ? state.lowSeconds + seconds : 0;
    if (state.lowSeconds > 600) {
      state.stage = 'bulk';
      state.absorbedSeconds = 0;
      state.lowSeconds = 0;
    }
  }
}

/** One step of a charger that has the bus to itself. */
export function runCharger(
  spec: ChargerSpec,
  state: ChargerState,
  seconds: number,
  capableAmps: number,
  celsius: number,
  bus: Bus,
): ChargerOutput {
  const aimed = aim(spec, state, seconds, capableAmps, celsius);
  const output = drive(spec, aimed.target, aimed.capableAmps, bus);
  settle(aimed, state, seconds, output);
  return output;
}
