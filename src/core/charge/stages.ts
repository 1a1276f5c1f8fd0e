/**
 * Stages of charging by the most likely path (Viterbi) through a small set of states. What each moment looks like comes from
 * the regulated-or-limited judgement, the distance to the found setpoints and the current; the order of a charge comes in as
 * costs of going from one state to another. Short stages are never filtered away: they only have to be worth their cost.
 */

import { MINUTE } from '../quantity/span';
import { clamp } from '../quantity/numbers';
import { REPORTED_STAGES } from '../log/channels';
import { type Regulation } from './regulation';
import { at25, type Setpoint, type Setpoints } from './setpoints';
import type { ChargeView } from './view';

/**
 * `absorptionDip` and `floatDip` are moments in which the supply fell short while the charger was in that stage (a cloud, a
 * heavy load): the charger goes on where it was.
 */
export const STATES = ['off', 'bulk', 'absorption', 'absorptionDip', 'float', 'floatDip'] as const;
export type State = (typeof STATES)[number];

const never = Infinity;
/** Cost in nats of leaving one state (row) for another (column): the usual order of a charge is cheap, leaps are dear. */
const COSTS: readonly (readonly number[])[] = [
  // off bulk abs absDip float floatDip
  [0, 2, 5, never, 6, never],
  [2.5, 0, 2, never, 12, never],
  [3, 4, 0, 1.5, 2.5, never],
  [2.5, 3, 1, 0, 5, never],
  [3, 5, 7, never, 0, 1.5],
  [2.5, 4, 6, never, 1, 0],
];

/** Nats per minute spent in a dip: after an hour or two it is the end of the stage. */
const DIP_COST = 0.05;

export interface StageInputs {
  view: ChargeView;
  regulation: Regulation;
  setpoints: Setpoints;
  capacityAh: number;
}

/** State number ({@link STATES}) of every cell of the view. */
export function segmentStages({ view, regulation, setpoints, capacityAh }: StageInputs): Uint8Array {
  const { count, step } = view.grid;
  const states = STATES.length;
  const from = new Uint8Array(count * states);
  let costs = new Float64Array(states).fill(0);
  costs[3] = costs[5] = never;
  let next = new Float64Array(states);
  const emission = new Float64Array(states);
  const emit = emissions({ view, regulation, setpoints, capacityAh });
  const dip = (DIP_COST * step) / MINUTE;

  for (let cell = 0; cell < count; cell++) {
    emit(cell, emission);
    emission[3]! -= dip;
    emission[5]! -= dip;
    for (let to = 0; to < states; to++) {
      let best = 0;
      let least = Infinity;
      for (let k = 0; k < states; k++) {
        const cost = costs[k]! + COSTS[k]![to]!;
        if (cost < least) {
          least = cost;
          best = k;
        }
      }
      next[to] = least - emission[to]!;
      from[cell * states + to] = best;
    }
    [costs, next] = [next, costs];
  }
  const path = new Uint8Array(count);
  let state = costs.indexOf(Math.min(...costs));
  for (let cell = count - 1; cell >= 0; cell--) {
    path[cell] = state;
    state = from[cell * states + state]!;
  }
  return path;
}

/** Log-likelihoods of the states in a cell, written into `out`. All zero in a gap: the state goes on. */
function emissions({
  view,
  regulation,
  setpoints,
  capacityAh,
}: StageInputs): (cell: number, out: Float64Array) => void {
  const { absorption, float, voltsPerC } = setpoints;
  const anywhere = -Math.log(2.4 * view.blocks);
  const onAmps = Math.max(0.003 * capacityAh, 3 * view.ampNoise);
  // Above this a battery is not on float.
  const busyAmps = 0.06 * capacityAh;

  const near = (volts: number, setpoint: Setpoint): number => {
    const width = Math.max(1.3 * setpoint.width, 0.012 * view.blocks);
    const z = (volts - setpoint.volts) / width;
    return Math.max(-0.5 * z * z - Math.log(width * 2.5066), anywhere - 40);
  };

  /** How badly a voltage fits a supply that falls short of a setpoint: it should be below it. */
  const notBelow = (volts: number, setpoint: Setpoint): number =>
    clamp((volts - setpoint.volts + 2 * setpoint.width) / setpoint.width, 0, 6);

  return (cell, out) => {
    const raw = view.volts[cell]!;
    const amps = view.amps[cell]!;
    if (raw !== raw || amps !== amps) {
      out.fill(0);
      return;
    }
    const volts = at25(view, cell, voltsPerC);
    const held = regulation.held[cell]! === regulation.held[cell]! ? regulation.held[cell]! : 0;
    const on = amps > onAmps;
    const reported = view.reported ? REPORTED_STAGES[view.reported[cell]!] : undefined;
    const says = (stage: string) =>
      reported === undefined || reported === 'fault' ? 0 : reported === stage ? 1.5 : -1.5;

    out[0] = anywhere - (on ? Math.min(12, (3 * amps) / onAmps) : 0) + says('off');
    const above = absorption
      ? Math.max(0, volts - absorption.volts - 3 * absorption.width) / (0.05 * view.blocks)
      : 0;
    // The supply is the limit, in bulk as in a dip: what speaks for a held voltage speaks against it.
    // With nothing given, a moving voltage is the loads' doing and speaks for nothing.
    const limited = 0.7 * clamp(held, on ? -1 : 0, 5);
    out[1] = anywhere - (on ? 0 : 4) - limited - Math.min(8, above) + says('bulk');
    if (absorption) {
      // Where only the battery's current is known, absorption with its load on top still lets current in.
      out[2] =
        near(volts, absorption) -
        (amps > 0.3 * onAmps ? 0 : 5) +
        0.7 * clamp(held, -5, 2) +
        says('absorption');
      out[3] = anywhere - notBelow(volts, absorption) - limited + Math.max(says('absorption'), says('bulk'));
    } else out[2] = out[3] = -never;
    if (float) {
      // A battery on float takes little. Where loads may be inside the current that is seen, it says less.
      const battery = view.batteryAmps ? view.batteryAmps[cell]! : amps;
      const busy = battery > busyAmps ? (view.batteryAmps ? 2 : 1.5) : 0;
      const holding = near(volts, float) + 0.7 * clamp(held, -5, 2);
      // After absorption the charger waits, giving nothing, until the voltage has sunk to float.
      const ceiling = absorption ? absorption.volts : float.volts + 0.9 * view.blocks;
      const sinks = volts > float.volts && volts < ceiling && isSinking(view, cell);
      const sinking = sinks ? anywhere - (on ? 1 : 0) : -never;
      out[4] = Math.max(holding, sinking) - busy + says('float');
      out[5] = anywhere - notBelow(volts, float) - limited + Math.max(says('float'), says('bulk'));
    } else out[4] = out[5] = -never;
  };
}

function isSinking(view: ChargeView, cell: number): boolean {
  const before = view.volts[Math.max(0, cell - 2)]!;
  const after = view.volts[Math.min(view.grid.count - 1, cell + 2)]!;
  return after <= before + 0.2 * view.voltNoise;
}
