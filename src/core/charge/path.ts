/**
 * Stages of charging by the most likely path (Viterbi) through a small set of states. What each moment looks like comes from the
 * evidence of that moment: held or limited, how far from the found setpoints, how much current, what the charger says. Short stages are
 * never filtered away: they only have to be worth the cost of going there.
 */

import { MINUTE } from '../quantity/span';
import { clamp } from '../quantity/numbers';
import { REPORTED_STAGES } from '../log/channels';
import type { Setpoint, Setpoints } from './setpoint';
import { AT, COST_TABLE, STATES } from './states';
import { OTHERS_HOLD } from './together';
import { at25, type ChargeView } from './view';

export interface PathInputs {
  view: ChargeView;
  /** Per cell, natural log: held over limited. NaN in gaps. */
  held: Float32Array;
  /** Whether this source answers rather than the others, nats; null where that is not known. */
  answers: Float32Array | null;
  setpoints: Setpoints;
  onAmps: number;
  capacityAh: number;
  /** 1 at night, for the sun; null otherwise. */
  night: Uint8Array | null;
  /** Other sources may hold the bus. */
  shared: boolean;
  /** The charger may follow the battery's temperature. */
  follows: boolean;
  /** A battery whose voltage at rest is about that at which it is floated. */
  lithium: boolean;
}

/** State number of cells in which the log is silent. */
export const SILENT = 255;
/** Nats per minute spent in a dip: after an hour or two it is the end of the stage. */
const DIP_COST = 0.05;
/** Nats per minute of waiting for float: what never comes to it was no waiting. */
const WAIT_COST = 0.02;
/** A silence longer than this may hide anything: what comes after it may be any state. Minutes. */
const FORGET = 30;

/** State number ({@link STATES}) of every cell of the view, {@link SILENT} in gaps. */
export function likeliestPath(inputs: PathInputs): Uint8Array {
  const { view } = inputs;
  const { count, step } = view.grid;
  const states = STATES.length;
  const from = new Uint8Array(count * states);
  let costs = new Float64Array(states).fill(0);
  const stay = [...Array(states).keys()];
  for (const late of ['absorptionDip', 'floatDip', 'storage', 'sinking', 'climbing'] as const)
    costs[AT[late]] = Infinity;
  let next = new Float64Array(states);
  const emission = new Float64Array(states);
  const emit = emissions(inputs);
  const minutes = step / MINUTE;
  // A cell of ten minutes tells more than a cell of one, though not ten times as much: its samples share their noise.
  const weight = Math.sqrt(clamp(minutes, 1, 10));
  const dip = DIP_COST * minutes;
  let silent = 0;

  for (let cell = 0; cell < count; cell++) {
    if (!emit(cell, emission)) {
      silent++;
      from.set(stay, cell * states);
      continue;
    }
    if (silent * minutes > FORGET) {
      // Whatever it was, it may be anything now; that it went on is still the likeliest.
      const least = Math.min(...costs) + 2;
      const before = costs.indexOf(Math.min(...costs));
      for (let k = 0; k < states; k++)
        if (least < costs[k]! && COST_TABLE[AT.off]![k]! < Infinity) {
          costs[k] = least;
          from[(cell - 1) * states + k] = before;
        }
    }
    silent = 0;
    emission[AT.absorptionDip]! -= dip / weight;
    emission[AT.floatDip]! -= dip / weight;
    for (let to = 0; to < states; to++) {
      let best = 0;
      let least = Infinity;
      for (let k = 0; k < states; k++) {
        const cost = costs[k]! + COST_TABLE[k]![to]!;
        if (cost < least) {
          least = cost;
          best = k;
        }
      }
      next[to] = least - weight * emission[to]!;
      from[cell * states + to] = best;
    }
    [costs, next] = [next, costs];
  }
  const path = new Uint8Array(count);
  let state = costs.indexOf(Math.min(...costs));
  for (let cell = count - 1; cell >= 0; cell--) {
    const known = view.volts[cell]! === view.volts[cell]! && view.amps[cell]! === view.amps[cell]!;
    path[cell] = known ? state : SILENT;
    state = from[cell * states + state]!;
  }
  return path;
}

const never = -Infinity;

/** V a 12 V block within which a held voltage stands, at the least, and within which it wanders with the weather. */
const STANDS = 0.012;
const WANDERS = 0.04;

/** Evidence of regulation below which the voltage plainly follows the current, nats. */
const FOLLOWS = -0.5;

/** Log-likelihoods of the states in a cell, written into `out`; false where the log is silent. */
function emissions(inputs: PathInputs): (cell: number, out: Float64Array) => boolean {
  const { view, held, answers, setpoints, onAmps, capacityAh, night, shared, follows, lithium } = inputs;
  const { absorption, float, equalise, storage, voltsPerC, floatVolts } = setpoints;
  const anywhere = -Math.log(2.4 * view.blocks);
  // Above this a battery is not on float; lithium, which takes next to nothing there, long before.
  const busyAmps = (lithium && view.batteryAmps ? 0.025 : 0.06) * capacityAh;
  // Where others may hold the bus, a charger that gives nothing is held off by them; lithium stands above float by itself.
  const waits = view.ampsAreBattery || !shared;
  const wait = (WAIT_COST * view.grid.step) / MINUTE;
  const lowest = Math.min(absorption?.volts ?? Infinity, floatVolts);

  // Where the charger follows a temperature that nobody logged, the voltages that it holds wander with the weather.
  const wanders = follows && !view.celsius;
  const leastWidth = (wanders ? WANDERS : STANDS) * view.blocks;
  const near = (volts: number, setpoint: Setpoint): number => {
    const width = Math.max(1.3 * setpoint.width, leastWidth);
    const z = (volts - setpoint.volts) / width;
    return Math.max(-0.5 * z * z - Math.log(width * 2.5066), anywhere - 40);
  };

  /** How badly a voltage fits a supply that falls short of a setpoint: it should be below it. */
  const notBelow = (volts: number, setpoint: Setpoint): number =>
    clamp((volts - setpoint.volts + 2 * setpoint.width) / setpoint.width, 0, 6);

  return (cell, out) => {
    const raw = view.volts[cell]!;
    const amps = view.amps[cell]!;
    if (raw !== raw || amps !== amps) return false;
    const volts = at25(view, cell, voltsPerC);
    const holds = held[cell]! === held[cell]! ? held[cell]! : 0;
    const on = amps > onAmps;
    const dark = night !== null && night[cell] === 1;
    // A voltage that others hold is not held by a source that gives nothing.
    const idle = view.ampsAreBattery || on ? 0 : shared || lithium ? 6 : 1;
    // The sun holds nothing at night.
    const floats = dark && !view.ampsAreBattery ? 8 : 0;
    const reported = view.reported ? REPORTED_STAGES[view.reported[cell]!] : undefined;
    // A charger that gives nothing may call that bulk or absorption for hours: it waits for its supply.
    const waiting = !on && (reported === 'bulk' || reported === 'absorption');
    const says = (stage: string) =>
      reported === undefined || reported === 'fault' || waiting ? 0 : reported === stage ? 1.5 : -1.5;
    // A charger may call it absorption for hours while its voltage follows the sun: there its word parts no dip from bulk.
    const short = on && holds < FOLLOWS;
    const saysDip = (stage: string) => (short ? says('bulk') : Math.max(says(stage), says('bulk')));

    out[AT.off] = anywhere - (on ? Math.min(12, (3 * amps) / onAmps) : 0) + says('off');
    const above = absorption
      ? Math.max(0, volts - absorption.volts - 3 * absorption.width) / (0.05 * view.blocks)
      : 0;
    // The supply is the limit, in bulk as in a dip: what speaks for a held voltage speaks against it.
    // With nothing given, a moving voltage is the loads' doing and speaks for nothing.
    const limited = 0.7 * clamp(holds, on ? -1 : 0, 5);
    // Where the others hold the voltage, it stands at this source's setpoint by their doing or by chance.
    const theirs = answers !== null && answers[cell]! <= OTHERS_HOLD;
    const at = (setpoint: Setpoint | null): number =>
      theirs && setpoint ? Math.max(anywhere, near(volts, setpoint)) : anywhere;
    out[AT.bulk] =
      Math.max(at(absorption), at(float)) - (on ? 0 : 4) - limited - Math.min(8, above) + says('bulk');
    if (absorption) {
      // Where only the battery's current is known, absorption with its load on top still lets current in.
      out[AT.absorption] =
        near(volts, absorption) -
        (amps > 0.3 * onAmps ? 0 : 5) -
        idle +
        0.7 * clamp(holds, -5, 2) +
        says('absorption');
      out[AT.absorptionDip] = at(absorption) - notBelow(volts, absorption) - limited + saysDip('absorption');
    } else out[AT.absorption] = out[AT.absorptionDip] = never;
    if (float) {
      // A battery on float takes little. Where loads may be inside the current that is seen, it says less.
      const battery = view.batteryAmps ? view.batteryAmps[cell]! : amps;
      const busy = battery > busyAmps ? (view.batteryAmps ? (lithium ? 3 : 2) : 1.5) : 0;
      const kept = 0.7 * clamp(holds, -5, 2) - busy - idle - floats + says('float');
      out[AT.float] = near(volts, float) + kept;
      out[AT.storage] = storage ? near(volts, storage) + kept : never;
      out[AT.floatDip] = at(float) - notBelow(volts, float) - limited + saysDip('float');
    } else out[AT.float] = out[AT.floatDip] = out[AT.storage] = never;
    // Waiting for float the charger gives nothing, and the voltage is still above what it will hold.
    const tolerance = float ? 2 * float.width : 0.05 * view.blocks;
    out[AT.sinking] =
      waits && !dark && volts > floatVolts - tolerance
        ? anywhere - wait - (on ? Math.min(8, (2 * amps) / onAmps) : 0) + Math.max(says('float'), says('off'))
        : never;
    if (equalise) {
      out[AT.climbing] =
        above > 0 && volts < equalise.volts + 2 * equalise.width
          ? anywhere + 0.5 - limited + says('equalise')
          : never;
      out[AT.equalise] = near(volts, equalise) + 0.7 * clamp(holds, -5, 2) + says('equalise');
    } else out[AT.climbing] = out[AT.equalise] = never;
    // Another source keeps the bus at or above what this one would hold.
    out[AT.hold] =
      shared && !view.ampsAreBattery && !on && !dark && volts > lowest - 0.03 * view.blocks
        ? anywhere + 0.2 + Math.max(says('absorption'), says('float'), says('off'))
        : never;
    return true;
  };
}
