/** The current of each load, by its own log, by the log of a device that carries it, or by what the battery gave. */

import { boundsAt } from '../log/interpolateAt';
import { batteryCurrent, logOf, type Timeline } from '../log/timeline';
import { isNumber } from '../quantity/numbers';
import type { KnownSystem } from '../system/known';
import type { Load, Source } from '../system/schema';

export interface LoadCurrent {
  /** Id of the load; null where it is not known which of several it was. */
  id: string | null;
  time: Float64Array;
  /** A drawn; NaN for what is not known. */
  amps: Float32Array;
  /** V at its terminals; null where not logged. */
  volts: Float32Array | null;
  /** Sources without a log give to the loads as well: what the battery gives is not all that they draw. Null where there are none. */
  hidden: {
    /** A that they give together at most; Infinity where a rating is not known. */
    mostA: number;
    /** A into the battery. */
    into: Float32Array;
  } | null;
  /** A that the sources give meanwhile, where the load is what they and the battery give together; null where the load was logged. */
  given: Float32Array | null;
}

/** The load that went off when somebody cut: itself, or the only one there is; null where it is not known which of several it was. */
export const loadBehind = (loads: readonly LoadCurrent[], by: string): LoadCurrent | null =>
  loads.find((one) => one.id === by) ?? (loads.length === 1 ? loads[0]! : null);

/** The loads that a current may be of. */
export const loadOf = ({ loads }: KnownSystem, { id }: LoadCurrent): readonly Load[] =>
  id === null ? loads : loads.filter((one) => one.id === id);

/** The voltages at which they are set to let go. */
export const voltLimits = (system: KnownSystem, load: LoadCurrent): number[] =>
  loadOf(system, load).flatMap((one) => (one.cutoffV === undefined ? [] : [one.cutoffV]));

/** V a 12 V block that the wiring up to a load may lose, which is not seen from the battery (common practice, no source). */
export const WIRING_VOLTS = 0.04;

export const idOf = ({ id }: LoadCurrent): string => id ?? 'unknown';

/** A battery that takes more is charged, parts of the capacity in A; less is the meter's zero. */
const CHARGES = 0.004;
/** A source whose current moves by more from one of its rows to the next may have moved at any time between, parts of the capacity in A. */
const MOVES = 0.02;

/**
 * One for each load with a log of its own; else one for all together, from another device's log or from the battery's current.
 * @param zeroA A that the battery's meter shows where nothing flows
 */
export function loadCurrents(system: KnownSystem, timeline: Timeline, zeroA: number): LoadCurrent[] {
  const own = system.loads.flatMap(({ id }): LoadCurrent[] => {
    const log = logOf(timeline, id, 'load_current');
    return log
      ? [
          {
            id,
            time: log.time,
            amps: log.channels.load_current!,
            volts: log.channels.load_voltage ?? null,
            hidden: null,
            given: null,
          },
        ]
      : [];
  });
  if (own.length > 0) return own;
  const id = system.loads.length === 1 ? system.loads[0]!.id : null;
  const carried = timeline.series.find((one) => one.channels.load_current);
  if (carried)
    return [
      {
        id,
        time: carried.time,
        amps: carried.channels.load_current!,
        volts: carried.channels.load_voltage ?? null,
        hidden: null,
        given: null,
      },
    ];
  const battery = batteryCurrent(timeline);
  if (!battery) return [];
  const { time } = battery;
  // What the sources give goes to the loads as well; a source without a log hides them while it runs.
  const given = new Float32Array(time.length);
  const least = new Float32Array(time.length);
  const most = new Float32Array(time.length);
  const unlogged: Source[] = [];
  for (const source of system.sources) {
    const log = logOf(timeline, source.id, 'source_current');
    if (!log) {
      unlogged.push(source);
      continue;
    }
    const bounds = boundsAt(log.time, log.channels.source_current!, time);
    bounds.line.forEach((one, i) => (given[i]! += one));
    bounds.least.forEach((one, i) => (least[i]! += one));
    bounds.most.forEach((one, i) => (most[i]! += one));
  }
  const drawn = (i: number) => given[i]! - (battery.amps[i]! - zeroA);
  const amps = new Float32Array(time.length);
  for (let i = 0; i < time.length; i++) {
    // Where a source comes or goes between two of its rows, the loads draw what they drew just before, or will.
    if (most[i]! - least[i]! > MOVES * system.bank.capacityAh) {
      const beside = [amps[i - 1]!, drawn(i + 1)].filter(isNumber);
      const apart = (may: number) =>
        Math.min(...beside.map((other) => Math.abs(may - battery.amps[i]! + zeroA - other)));
      for (const may of [least[i]!, most[i]!]) if (apart(may) < apart(given[i]!)) given[i] = may;
    }
    // Below nothing by the noise of the meters alone: that is left in, so that it can be told from a load.
    amps[i] = unlogged.length > 0 && battery.amps[i]! > CHARGES * system.bank.capacityAh ? NaN : drawn(i);
  }
  const mostA = unlogged.reduce((sum, { ratedA }) => sum + (ratedA ?? Infinity), 0);
  const hidden = unlogged.length > 0 ? { mostA, into: battery.amps } : null;
  return [{ id, time, amps, volts: null, hidden, given }];
}
