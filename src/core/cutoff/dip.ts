/** The battery's voltage between two samples of its own log, as a charger's log shows it. */

import type { Series } from '../log/channels';
import { firstAtOrAfter } from '../log/grid';
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
  const chargers = timeline.series.filter(
    (one) => one !== battery && one.channels.source_voltage && one.channels.source_current,
  );
  return (from, volts, to) => {
    let lowest = NONE;
    for (const { time, channels } of chargers) {
      const first = firstAtOrAfter(time, from + 1);
      // Its meter may read lower than the battery's.
      const before = channels.source_voltage![first - 1]!;
      const less = before === before ? Math.max(0, volts - before) : NaN;
      for (let k = Math.max(1, first); k < time.length && time[k]! <= to; k++) {
        const amps = channels.source_current![k]!;
        const seen = channels.source_voltage![k]! + less;
        if (amps >= FLOWS_A && seen > LEFT * volts && seen < Math.min(volts, lowest.volts))
          lowest = { volts: seen, moreA: Math.max(0, channels.source_current![first - 1]! - amps) };
      }
    }
    return lowest;
  };
}
