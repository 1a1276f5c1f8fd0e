/** The current of each load, by its own log, by the log of a device that carries it, or by what the battery gave. */

import { interpolateAt } from '../log/interpolateAt';
import { batteryCurrent, logOf, type Timeline } from '../log/timeline';
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
  const unlogged: Source[] = [];
  for (const source of system.sources) {
    const log = logOf(timeline, source.id, 'source_current');
    if (!log) {
      unlogged.push(source);
      continue;
    }
    interpolateAt(log.time, log.channels.source_current!, time).forEach((one, i) => (given[i]! += one));
  }
  const amps = battery.amps.map((one, i) => {
    // Below nothing by the noise of the meters alone: that is left in, so that it can be told from a load.
    return unlogged.length > 0 && one > CHARGES * system.bank.capacityAh ? NaN : given[i]! - (one - zeroA);
  });
  const mostA = unlogged.reduce((sum, { ratedA }) => sum + (ratedA ?? Infinity), 0);
  const hidden = unlogged.length > 0 ? { mostA, into: battery.amps } : null;
  return [{ id, time, amps, volts: null, hidden, given }];
}
