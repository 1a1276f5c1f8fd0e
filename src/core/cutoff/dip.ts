/** The battery's voltage between two samples of its own log, as a charger's log shows it. */

import type { Series } from '../log/channels';
import { firstAtOrAfter, gapLimit, medianStep } from '../log/grid';
import type { Timeline } from '../log/timeline';

/** A charger that gives less may stand off the battery: its terminals tell nothing then. */
const FLOWS_A = 0.5;

/** What sinks under this part of the battery's voltage at once is a bus that it has left. */
const LEFT = 0.75;

export interface Dip {
  /** V; Infinity where no charger saw a dip. */
  volts: number;
  /** A that the charger gave less than at its sample before, so the battery more. */
  moreA: number;
}

const NONE: Dip = { volts: Infinity, moreA: 0 };

/**
 * While a charger gives, its terminals stand at the battery's voltage or above it: where they stand lower than the battery at its last
 * sample, the battery has come down as well.
 * @returns reads the lowest from a sample of the battery's log to a moment, by chargers that share none of its samples
 */
export function dipReader(
  timeline: Timeline,
  battery: Series,
): (from: number, volts: number, to: number) => Dip {
  const chargers = timeline.series.flatMap((one) => {
    const { source_voltage: volts, source_current: amps } = one.channels;
    if (one === battery || !volts || !amps) return [];
    return [{ time: one.time, volts, amps, limit: gapLimit(medianStep(one.time)) }];
  });
  return (from, batteryVolts, to) => {
    let lowest = NONE;
    for (const { time, volts, amps, limit } of chargers) {
      const first = firstAtOrAfter(time, from + 1);
      const before = first - 1;
      // After a silence nothing says how its meter reads beside the battery's.
      if (before < 0 || !(from - time[before]! <= limit)) continue;
      const less = Math.max(0, batteryVolts - volts[before]!);
      for (let k = first; k < time.length && time[k]! <= to; k++) {
        const seen = volts[k]! + less;
        if (amps[k]! >= FLOWS_A && seen > LEFT * batteryVolts && seen < Math.min(batteryVolts, lowest.volts))
          lowest = { volts: seen, moreA: Math.max(0, amps[before]! - amps[k]!) || 0 };
      }
    }
    return lowest;
  };
}
