/** What is counted: the bank, or each half of a split one: its cells, its charges, what flows through it, and its voltage. */

import type { SourceCharging } from '../charge/types';
import { type Grid, toGrid } from '../log/grid';
import { halfVolts } from '../log/halfVolts';
import { currentOfOtherHalf, unseenHalf } from '../log/otherHalf';
import { logOf, type Timeline } from '../log/timeline';
import { bankOf } from '../system/bankOf';
import { blocksInSeries, deadVolts } from '../system/chemistry';
import type { KnownBank, KnownSystem } from '../system/known';
import type { Source } from '../system/schema';
import type { CounterLog } from './counterLog';
import { onGrid } from './onGrid';

export interface CountedPart {
  bank: KnownBank;
  charging: SourceCharging[];
  /** A into it, at the samples of the counter's log. */
  amps: Float32Array;
  /** V of its cells, in the cells of the counter's grid; null where nobody logged it. */
  volts: Float32Array | null;
}

interface Given {
  system: KnownSystem;
  timeline: Timeline;
  log: CounterLog;
  charging: readonly SourceCharging[];
}

type Across = NonNullable<Source['across']>;

/** The cells that the monitor counts on: the bank, or the half in which it sits. */
export const countedBank = (system: KnownSystem): KnownBank =>
  bankOf(system, { across: system.monitor?.sees ?? 'bank' });

export const countedCharges = ({ system, charging }: Pick<Given, 'system' | 'charging'>): SourceCharging[] =>
  chargesOf(charging, system.monitor?.sees ?? 'bank');

const chargesOf = (charging: readonly SourceCharging[], part: Across): SourceCharging[] =>
  charging.filter(({ source }) => [part, 'bank'].includes(source?.across ?? 'bank'));

/**
 * What the monitor sees, and the other half where that can be followed by what its chargers logged.
 * @param amps A through the monitor, as it ought to have been
 */
export function countedParts(
  given: Given,
  amps: Float32Array,
): { seen: CountedPart; other: CountedPart | null } {
  const { system, timeline, log, charging } = given;
  const across = system.monitor?.sees ?? 'bank';
  const seen = {
    bank: countedBank(system),
    charging: countedCharges(given),
    amps,
    volts: voltsOf(given, across),
  };
  const unseen = unseenHalf(system);
  const current = currentOfOtherHalf(system, timeline, { time: log.time, amps });
  const own = unseen ? chargesOf(charging, unseen).filter((one) => one.source?.across === unseen) : [];
  // Without a charger that shows when it was full nothing ties the count of the other half down.
  if (!unseen || !current || own.length === 0) return { seen, other: null };
  return {
    seen,
    other: {
      bank: bankOf(system, { across: unseen }),
      charging: chargesOf(charging, unseen),
      amps: current.amps,
      volts: voltsOf(given, unseen),
    },
  };
}

/** A charger that shows less has switched its meter off, V a 12 V block. */
const METER_ON = 8;

/** The voltage of a part: the monitor's, or by the voltage between the halves, or what the half's own charger shows. */
export function voltsOf(
  { system, timeline, log }: Omit<Given, 'charging'>,
  part: Across,
): Float32Array | null {
  const { grid, volts: means } = onGrid(log);
  const volts = means && withoutDeadRows(log, grid, means, deadVolts(countedBank(system)));
  if (part === 'bank') return volts;
  const blocks = blocksInSeries(bankOf(system, { across: part }));
  const half = volts && halfVolts(volts, part, system, timeline, grid);
  return half ?? byCharger(system, timeline, part, grid, METER_ON * blocks);
}

/** The mean of a row in which the bus was dead and of one in which it was not is no voltage that stood there. */
function withoutDeadRows(log: CounterLog, grid: Grid, means: Float32Array, dead: number): Float32Array {
  const volts = log.volts!;
  if (!volts.some((one) => one < dead)) return means;
  return toGrid(
    log.time,
    volts.map((one) => (one < dead ? NaN : one)),
    grid,
  );
}

function byCharger(
  { sources }: KnownSystem,
  timeline: Timeline,
  part: Across,
  grid: Grid,
  least: number,
): Float32Array | null {
  const log = sources
    .filter(({ across }) => across === part)
    .map(({ id }) => logOf(timeline, id, 'source_voltage'))
    .find((one) => one !== null);
  if (!log) return null;
  return toGrid(log.time, log.channels.source_voltage!, grid).map((one) => (one > least ? one : NaN));
}
