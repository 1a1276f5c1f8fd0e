/** What a monitor's count can be followed by: current, voltage and reading on one clock, as it logged them. */

import { interpolateAt } from '../log/interpolateAt';
import { medianStep } from '../log/grid';
import type { Series } from '../log/channels';
import { anyLogWith, batteryCurrent, type Timeline } from '../log/timeline';
import type { System } from '../system/schema';
import { withWholeJumps } from './wholeJumps';

export interface CounterLog {
  device: string;
  /** Epoch ms. */
  time: Float64Array;
  /** A into the battery as the monitor shows it; another log's where it logs none. */
  amps: Float32Array;
  ampsAreItsOwn: boolean;
  /** V at the battery; null where nobody logged it. */
  volts: Float32Array | null;
  /** Its percentage; null where it was not logged. NaN for what is missing. */
  reading: Float32Array | null;
}

/** Null where no current into the battery was logged at all. */
export function counterLog(system: System, timeline: Timeline): CounterLog | null {
  const log = logOfCounter(timeline);
  if (!log) return null;
  const { time, channels } = log;
  const own = channels.battery_current;
  const other = own ? null : batteryCurrent(timeline);
  if (!own && !other) return null;
  const amps = own ?? interpolateAt(other!.time, other!.amps, time);
  const voltLog = channels.battery_voltage ? log : anyLogWith(timeline, 'battery_voltage');
  const volts = voltLog?.channels.battery_voltage;
  const reading = channels.soc ?? readingFromConsumed(log, system);
  const capacityAh = system.monitor?.capacityAh ?? system.bank.capacityAh;
  return {
    device: log.device,
    time,
    amps,
    ampsAreItsOwn: own !== undefined,
    volts: !volts ? null : voltLog === log ? volts : interpolateAt(voltLog!.time, volts, time),
    reading: reading && withWholeJumps(reading, time, capacityAh ? { amps, capacityAh } : null),
  };
}

/** The monitor's log; else any that carries a percentage of its own and is not the BMS, else whatever has the battery's current. */
function logOfCounter(timeline: Timeline): Series | null {
  const carries = (one: Series) =>
    one.channels.battery_current ?? one.channels.soc ?? one.channels.consumed_charge;
  return (
    timeline.series.find((one) => one.device === 'monitor' && carries(one)) ??
    timeline.series.find(
      (one) => one.device !== 'bms' && (one.channels.soc ?? one.channels.consumed_charge),
    ) ??
    anyLogWith(timeline, 'battery_current')
  );
}

/** The percentage that a count of ampere-hours stands for, whichever sign it is written with. */
function readingFromConsumed({ channels }: Series, { monitor, bank }: System): Float32Array | null {
  const capacity = monitor?.capacityAh ?? bank.capacityAh;
  if (!channels.consumed_charge || !capacity) return null;
  return channels.consumed_charge.map((one) => 100 * (1 - Math.abs(one) / capacity));
}

/** Fewer changes than this tell no step. */
const FEWEST_CHANGES = 5;

/** Least step of a reading, %; 0 where it moves smoothly, or hardly at all. */
export function readingQuantum({ reading, time }: Pick<CounterLog, 'reading' | 'time'>): number {
  if (!reading || !(medianStep(time) > 0)) return 0;
  let least = Infinity;
  let changes = 0;
  const stride = Math.max(1, Math.floor(reading.length / 50_000));
  for (let i = 1; i < reading.length; i += stride) {
    const step = Math.abs(reading[i]! - reading[i - 1]!);
    if (!(step > 0.005)) continue;
    changes++;
    if (step < least) least = step;
  }
  return changes < FEWEST_CHANGES ? 0 : Number(least.toFixed(2));
}
