/** Steps of devices with logs of their own that tell how much of them the monitor shows. */

import type { Grid } from '../log/grid';
import type { Share } from './shares';

/**
 * A charger that gives less than this part of a step was off before it, or is after it, where the voltage rises or falls with it by so much,
 * V a 12 V block: one that answers a load at the voltage that it holds moves no voltage.
 */
const OFF = 0.05;
export const RAISES = 0.1;

/** What steps are looked for in: the devices with logs of their own, and the battery's current and voltage beside them. */
export interface Seen {
  devices: {
    id: string;
    kind: Share['kind'];
    /** Whether the monitor is said to count it. */
    counted: boolean | null;
    amps: Float32Array;
    /** The same where the monitor writes the moment. */
    moment: Float32Array;
    /** Least step that it is judged by, A. */
    least: number;
  }[];
  amps: Float32Array;
  volts: Float32Array | null;
  held: Uint8Array;
  grid: Grid;
  /** Whether nothing else charges the battery. */
  isOnlySource: boolean;
  /** V from which the battery is charged, under which its bus is dead, and by which a charger that begins lifts it. */
  level: number;
  dead: number;
  raised: number;
}

/** Cells from which a step over so many is one that tells, and how often each device moved in them. */
export function stepsOver(
  lag: number,
  { devices, amps, volts, held, level, dead, raised }: Seen,
): { rows: number[]; moved: Float64Array } {
  const rows: number[] = [];
  const moved = new Float64Array(devices.length);
  const step = new Float64Array(devices.length);
  for (let i = 0; i + lag < amps.length; i++) {
    const dy = amps[i + lag]! - amps[i]!;
    if (dy !== dy) continue;
    let known = true;
    let sources = false;
    let loads = false;
    let switched = false;
    let given = 0;
    for (let k = 0; k < devices.length; k++) {
      const { amps: own, kind, least } = devices[k]!;
      const was = own[i]!;
      const is = own[i + lag]!;
      step[k] = Math.abs(is - was);
      if (step[k]! !== step[k]!) known = false;
      else if (step[k]! >= least) {
        if (kind === 'source') {
          sources = true;
          given += is - was;
          const raises = volts ? Math.sign(is - was) * (volts[i + lag]! - volts[i]!) : 0;
          if (Math.min(was, is) < OFF * step[k]! && raises >= raised) switched = true;
        } else loads = true;
      }
    }
    // On a bus that its battery has let go the sources feed the loads alone.
    if (!known || (volts && (volts[i]! < dead || volts[i + lag]! < dead))) continue;
    // What sinks while more is given, or rises while less is, a load that nobody logged has moved by more.
    if (!loads && volts && Math.sign(given) * (volts[i + lag]! - volts[i]!) <= -raised) continue;
    // A charger that holds a voltage answers the loads; one that begins to, or ends, gives what it gives.
    if ((held[i] || held[i + lag]) && !switched) continue;
    // A load shows in the battery's current only where no charger answers it.
    const drawn = !(volts && (volts[i]! >= level || volts[i + lag]! >= level));
    if (drawn ? !sources && !loads : !sources || loads) continue;
    if (isSeenBeside(i, lag, amps, devices, step)) continue;
    rows.push(i);
    for (let k = 0; k < devices.length; k++) if (step[k]! >= devices[k]!.least) moved[k]! += 1 / lag;
  }
  return { rows, moved };
}

/** A monitor that moves by this part of a step right before or after it, while the device does not, wrote its row on the other side of it. */
const BESIDE = 0.5;

/** Whether the monitor saw a step a row sooner or later than the device: rows of minutes lie so far apart. */
const isSeenBeside = (
  i: number,
  lag: number,
  amps: Float32Array,
  devices: Seen['devices'],
  step: Float64Array,
): boolean =>
  [i, i + lag + 1].some((at) =>
    devices.some(({ amps: own, least }, k) => {
      const far = BESIDE * step[k]!;
      return (
        step[k]! >= least &&
        Math.abs(amps[at]! - amps[at - 1]!) >= far &&
        Math.abs(own[at]! - own[at - 1]!) < far
      );
    }),
  );
